/** What the page says of itself; written by the core beside the script. */
export interface AboutSide {
  label: string;
  /** The file that landed or was read. */
  from: string;
  /** Of that file and all that belongs to it. */
  bytes: number;
  /** Whether what is shown is that file byte by byte. */
  asItIs: boolean;
  glbBytes: number;
}

export interface AboutRow {
  what: string;
  wanted: string;
  landed: string;
  note: string;
  verdict: 'changed' | 'lost';
}

export interface AboutProof {
  kept: number;
  changed: number;
  lost: number;
  /** Rows that are not listed. */
  more: number;
  rows: AboutRow[];
}

export interface About {
  title: string;
  made: string;
  sides: AboutSide[];
  proof: AboutProof | null;
}

export function readAbout(): About {
  const text = document.getElementById('about')?.textContent;
  if (!text) {
    throw new Error('The page is damaged: what it says of itself is missing. Ask for it again.');
  }
  return JSON.parse(text) as About;
}
