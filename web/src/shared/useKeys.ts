import { useEffect, useRef } from 'react';

/** Actions by key: `f`, `?`, `ctrl+z`, `ctrl+shift+z`. */
export type Keys = Record<string, () => void>;

/** Runs actions on keys, not while the user types. */
export function useKeys(keys: Keys) {
  const current = useRef(keys);
  current.current = keys;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable;
      const name =
        (event.ctrlKey || event.metaKey ? 'ctrl+' : '') +
        (event.shiftKey && event.key.length === 1 && /[a-z]/i.test(event.key) ? 'shift+' : '') +
        event.key.toLowerCase();
      if (typing && !(name === 'escape')) {
        return;
      }
      const action = current.current[name];
      if (action && !event.altKey) {
        event.preventDefault();
        action();
      }
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
