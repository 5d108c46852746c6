import { useNavigate } from 'react-router-dom';
import { useKeys } from '../../shared/useKeys';
import { type LightChoice, SHADINGS, useView } from '../../view3d/viewState';
import { STOPS, type Stop } from './RouteLine';
import { useFind } from './useFind';
import { useHandling } from './useHandling';
import { PICKS } from './ViewTools';

const LIGHTS: LightChoice[] = ['even', 'surroundings', 'own'];

/** The keys of the crossing's screen. */
export function useCrossingKeys(id: string, stop: Stop, ready: boolean) {
  const navigate = useNavigate();
  const find = useFind(id);
  const { undo, redo } = useHandling(id, ready);
  const set = useView((s) => s.set);
  const go = (step: number) => {
    const place = STOPS.findIndex((s) => s.id === stop) + step;
    const next = STOPS[place];
    if (next) {
      navigate(`/crossings/${id}/${next.id}${window.location.search}`);
    }
  };
  useKeys({
    f: () => find(),
    '1': () => set({ layout: 'near' }),
    '2': () => set({ layout: 'both' }),
    '3': () => set({ layout: 'far' }),
    '4': () => set({ layout: 'seam' }),
    x: () => {
      const now = SHADINGS.findIndex((s) => s.id === useView.getState().shading);
      set({ shading: SHADINGS[(now + 1) % SHADINGS.length]?.id ?? 'surface' });
    },
    '[': () => go(-1),
    ']': () => go(1),
    '/': () => document.getElementById('find-part')?.focus(),
    a: () => document.getElementById('add-step')?.click(),
    l: () => navigate(`/crossings/${id}/landing${window.location.search}`),
    m: () => navigate(`/crossings/${id}/materials`),
    j: () => set({ skeleton: !useView.getState().skeleton }),
    o: () => {
      const now = LIGHTS.indexOf(useView.getState().light);
      set({ light: LIGHTS[(now + 1) % LIGHTS.length] });
    },
    k: () => {
      const now = PICKS.findIndex((p) => p.id === useView.getState().pickMode);
      set({ pickMode: PICKS[(now + 1) % PICKS.length]?.id ?? 'part', picks: [] });
    },
    h: () => toggleHidden(),
    i: () => isolate(),
    escape: () => {
      set({ selected: [], finding: null, openStone: null, picks: [] });
      (document.activeElement as HTMLElement | null)?.blur();
    },
    'ctrl+z': undo,
    'ctrl+shift+z': redo,
    'ctrl+y': redo,
  });
}

function toggleHidden() {
  const { selected, hidden, set } = useView.getState();
  const all = selected.length > 0 && selected.every((id) => hidden.includes(id));
  set({
    hidden: all
      ? hidden.filter((id) => !selected.includes(id))
      : [...new Set([...hidden, ...selected])],
  });
}

/** Set by the tree, which knows all parts. */
export const isolation: { others: (selected: number[]) => number[] } = { others: () => [] };

function isolate() {
  const { selected, hidden, set } = useView.getState();
  set({ hidden: hidden.length > 0 || selected.length === 0 ? [] : isolation.others(selected) });
}
