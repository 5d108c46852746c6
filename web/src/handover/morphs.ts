import type { Asset, Morph } from './asset';
import { el } from './dom';

const MANY = 12;

/** Sliders for the shapes of all parts; one slider moves both sides. */
export class Morphs {
  readonly box = el('details', { class: 'morphs' });
  private readonly byHand = new Map<Morph[], number>();

  constructor(
    assets: Asset[],
    private readonly changed: () => void,
  ) {
    const groups = new Map<string, Morph[]>();
    for (const morph of assets.flatMap((a) => a.morphs)) {
      const key = `${morph.part}\n${morph.name}`;
      groups.set(key, [...(groups.get(key) ?? []), morph]);
    }
    const all = [...groups.values()];
    if (all.length === 0) {
      this.box.hidden = true;
      return;
    }
    const sliders = all.map((group) => this.slider(group));
    const find = el('input', {
      type: 'search',
      placeholder: 'Find a shape',
      ariaLabel: 'Find a shape',
    });
    find.addEventListener('input', () => {
      const wanted = find.value.trim().toLowerCase();
      for (const { row, text } of sliders) {
        row.hidden = !text.includes(wanted);
      }
    });
    const back = el(
      'button',
      { type: 'button', title: 'All as the file has them' },
      'As they landed',
    );
    back.addEventListener('click', () => {
      this.byHand.clear();
      for (const s of sliders) {
        s.reset();
      }
      this.changed();
    });
    this.box.append(
      el('summary', {}, `Shapes (${all.length})`),
      el('div', { class: 'morph-tools' }, ...(all.length > MANY ? [find, back] : [back])),
      el('div', { class: 'sliders' }, ...sliders.map((s) => s.row)),
    );
  }

  private slider(group: Morph[]) {
    const { part, name, at } = group[0] as Morph;
    const range = el('input', {
      type: 'range',
      min: String(Math.min(0, at)),
      max: String(Math.max(1, at)),
      step: '0.01',
      value: String(at),
    });
    const told = el('output', { class: 'num' }, at.toFixed(2));
    range.addEventListener('input', () => {
      told.textContent = Number(range.value).toFixed(2);
      this.byHand.set(group, Number(range.value));
      this.changed();
    });
    const label = part ? `${name}, ${part}` : name;
    const row = el('label', { title: label }, el('span', {}, label), range, told);
    const reset = () => {
      set(group, at);
      range.value = String(at);
      told.textContent = at.toFixed(2);
    };
    return { row, reset, text: label.toLowerCase() };
  }

  /** Over what a clip set just now. */
  apply() {
    for (const [group, value] of this.byHand) {
      set(group, value);
    }
  }
}

function set(group: Morph[], value: number) {
  for (const { mesh, index } of group.flatMap((m) => m.meshes)) {
    if (mesh.morphTargetInfluences) {
      mesh.morphTargetInfluences[index] = value;
    }
  }
}
