import type { RefObject } from 'react';
import { filesOfInput, type Incoming } from '../api/upload';

interface Props {
  take: (files: Incoming[]) => Promise<void> | void;
  /** Set to the input that asks for files. */
  files: RefObject<HTMLInputElement | null>;
  /** Set to the input that asks for a folder, where there is to be one. */
  folder?: RefObject<HTMLInputElement | null>;
}

/** The hidden inputs behind buttons that ask for files or a folder. */
export function FileInputs({ take, files, folder }: Props) {
  const taken = (input: HTMLInputElement) => {
    void take(filesOfInput(input.files));
    input.value = '';
  };
  return (
    <>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        aria-label="Files"
        data-testid="files"
        onChange={(e) => taken(e.target)}
      />
      {folder && (
        <input
          ref={(el) => {
            folder.current = el;
            el?.setAttribute('webkitdirectory', '');
          }}
          type="file"
          hidden
          aria-label="Folder"
          onChange={(e) => taken(e.target)}
        />
      )}
    </>
  );
}
