import type { About, AboutProof } from './about';
import type { Asset } from './asset';
import { el } from './dom';

export const length = (metres: number) =>
  metres >= 1
    ? `${Number(metres.toPrecision(4))} m`
    : metres >= 0.01
      ? `${Number((metres * 100).toPrecision(4))} cm`
      : `${Number((metres * 1000).toPrecision(4))} mm`;

const count = (n: number, one: string) => `${n.toLocaleString('en')} ${one}${n === 1 ? '' : 's'}`;

const bytes = (n: number) =>
  n >= 1e6 ? `${(n / 1e6).toFixed(1)} MB` : n >= 1e3 ? `${(n / 1e3).toFixed(0)} kB` : `${n} bytes`;

/** What is shown, in words. */
export function facts(about: About, assets: Asset[]): HTMLElement {
  const box = el('details', { class: 'facts' }, el('summary', {}, 'What this is'));
  const list = el('dl');
  for (const [i, asset] of assets.entries()) {
    const side = about.sides[i];
    if (!side) {
      continue;
    }
    const { x, y, z } = asset.size;
    list.append(
      el('dt', {}, side.label),
      el(
        'dd',
        {},
        `${side.from}, ${bytes(side.bytes)}. ${length(x)} wide, ${length(y)} high, ${length(z)} deep; `,
        `${count(asset.counts.parts, 'part')}, ${count(asset.counts.triangles, 'triangle')}, `,
        `${count(asset.counts.materials, 'material')}, ${count(asset.clips.length, 'clip')}. `,
        side.asItIs
          ? 'Shown is this very file.'
          : 'Shown is a glTF made from it: what glTF cannot hold is not seen here.',
      ),
    );
  }
  box.append(list, el('p', { class: 'quiet' }, about.made));
  return box;
}

/** The verdict, and what is not as it was. */
export function verdict(proof: AboutProof): HTMLElement {
  const differ = proof.changed + proof.lost;
  const look = proof.lost > 0 ? 'lost' : differ > 0 ? 'changed' : 'kept';
  const words =
    differ === 0
      ? `All ${proof.kept.toLocaleString('en')} facts were kept`
      : `${count(proof.kept, 'fact')} kept, ${proof.changed} changed, ${proof.lost} lost`;
  if (differ === 0) {
    return el('p', { class: `verdict ${look}` }, words);
  }
  const body = el('tbody');
  for (const row of proof.rows) {
    body.append(
      el(
        'tr',
        {},
        el('td', { class: row.verdict }, row.verdict),
        el('td', {}, row.what),
        el('td', {}, row.wanted),
        el('td', {}, row.landed),
        el('td', {}, row.note),
      ),
    );
  }
  const heads = ['Verdict', 'Fact', 'Wanted', 'Landed', 'Note'];
  return el(
    'details',
    { class: 'verdict' },
    el('summary', { class: look }, words),
    el(
      'div',
      { class: 'wide', tabIndex: 0 },
      el('table', {}, el('thead', {}, el('tr', {}, ...heads.map((h) => el('th', {}, h)))), body),
    ),
    ...(proof.more > 0
      ? [el('p', { class: 'quiet' }, `and ${proof.more} more, in the report`)]
      : []),
  );
}
