import type { About } from './about';
import type { Asset } from './asset';
import { choice, el, toggle } from './dom';
import { facts, length, verdict } from './facts';
import { Morphs } from './morphs';
import { Player } from './player';
import { type Backdrop, type Layout, Stage } from './stage';

const BACKDROPS: [Backdrop, string][] = [
  ['paper', 'Chart paper'],
  ['water', 'Night water'],
  ['white', 'White'],
  ['black', 'Black'],
  ['surroundings', 'Surroundings'],
  ['own', 'Own colour'],
];
const TURN = 0.12;
const PAN = 0.06;

/** The whole page once the asset is there. */
export class Page {
  private readonly stage: Stage;
  private readonly canvas = el('canvas', { tabIndex: 0 });
  private readonly player: Player;
  private readonly morphs: Morphs;
  private readonly keys = new Map<string, () => void>();
  private readonly seam = el('button', { type: 'button', class: 'seam' });
  private readonly sideNames: HTMLElement[] = [];

  constructor(
    private readonly about: About,
    private readonly assets: Asset[],
    together: string,
    main: HTMLElement,
  ) {
    this.canvas.setAttribute('role', 'img');
    this.canvas.setAttribute('aria-label', `${about.title}, 3D view`);
    const view = el('div', { class: 'view' }, this.canvas);
    main.append(el('header', {}, el('h1', {}, about.title), ...this.said(together)), view);
    this.stage = this.start();
    this.morphs = new Morphs(assets, () => this.draw());
    // A dark system gets the dark backdrop.
    const dark = window.matchMedia('(prefers-color-scheme: dark)').matches;
    this.stage.backdrop(dark ? 'water' : 'paper', '');
    this.player = new Player(
      assets,
      about.sides.map((s) => s.label),
      () => this.draw(),
    );
    this.key('[', () => this.player.step(-1));
    this.key(']', () => this.player.step(1));
    this.key(' ', () => this.player.toggle());
    const tools = el('div', { class: 'tools' }, ...this.tools(dark));
    main.append(el('footer', {}, this.player.box, tools, this.morphs.box, facts(about, assets)));
    main.append(el('p', { class: 'quiet keys' }, this.keysInWords()));
    if (assets.length > 1) {
      this.twin(view);
    }
    this.listen();
    this.stage.frame();
  }

  private keysInWords(): string {
    const words = [
      'In the view, arrows turn, Shift and arrows move, + and - come closer and go away.',
      'F shows all, B changes the backdrop, G the grid',
      this.keys.has('l') ? ', L the look' : '',
      this.assets.some((a) => a.clips.length > 0) ? ', [ and ] the clip, Space plays' : '',
      this.assets.length > 1 ? ', comma and full stop move the seam' : '',
    ];
    return `${words[0]} ${words.slice(1).join('')}. A square is ${length(this.stage.square)}.`;
  }

  private start(): Stage {
    try {
      const stage = new Stage(this.canvas);
      for (const asset of this.assets) {
        stage.add(asset);
      }
      return stage;
    } catch {
      throw new Error(
        'This browser cannot draw 3D (WebGL 2). Open the page in another browser, or turn on its hardware acceleration.',
      );
    }
  }

  private said(together: string): HTMLElement[] {
    const { proof, sides } = this.about;
    const note = together ? [el('p', { class: 'quiet' }, `${sides[0]?.label} ${together}.`)] : [];
    return proof ? [verdict(proof), ...note] : note;
  }

  private draw() {
    // The clip first, then what is set by hand over it.
    this.morphs?.apply();
    this.stage.draw();
  }

  private tools(dark: boolean): HTMLElement[] {
    const stage = this.stage;
    const looks = [...new Set(this.assets.flatMap((a) => a.looks.names))];
    const colour = el('input', { type: 'color', value: '#8a9aa0', ariaLabel: 'Own colour' });
    colour.hidden = true;
    const backdrop = choice(
      'Backdrop',
      'What is behind (B: next)',
      BACKDROPS,
      dark ? 'water' : 'paper',
      (value) => {
        colour.hidden = value !== 'own';
        stage.backdrop(value as Backdrop, colour.value);
      },
    );
    colour.addEventListener('input', () => stage.backdrop('own', colour.value));
    this.key('b', () => next(backdrop.select));
    const grid = toggle('Grid', 'The ground (G)', true, (on) => stage.grid(on));
    this.key('g', () => grid.click());
    const all = el('button', { type: 'button', title: 'Show all (F)' }, 'Show all');
    all.addEventListener('click', () => stage.frame());
    this.key('f', () => stage.frame());
    const tools: HTMLElement[] = [];
    if (looks.length > 0) {
      const look = choice(
        'Look',
        'Materials (L: next)',
        [['\0', 'As it opens'], ...looks.map((n): [string, string] => [n, n])],
        '\0',
        async (value) => {
          await Promise.all(this.assets.map((a) => a.looks.choose(value)));
          this.draw();
        },
      );
      this.key('l', () => next(look.select));
      tools.push(look.box);
    }
    tools.push(backdrop.box, colour, grid, all);
    if (this.assets.some((a) => a.lights.length > 0)) {
      const help = 'The lights of the file instead of the surroundings';
      tools.push(toggle('Its lights', help, false, (on) => stage.ownLights(on)));
    }
    return tools;
  }

  /** Names of the sides, how they are laid out, and the seam. */
  private twin(view: HTMLElement) {
    const [a, b] = this.about.sides;
    const layout = choice(
      'Sides',
      'How both sides are shown',
      [
        ['seam', 'With the seam'],
        ['beside', 'Side by side'],
        ['first', `Only ${a?.label}`],
        ['second', `Only ${b?.label}`],
      ],
      'seam',
      (value) => {
        this.stage.layout = value as Layout;
        view.dataset.layout = value;
        this.stage.frame();
      },
    );
    view.dataset.layout = 'seam';
    document.querySelector('.tools')?.prepend(layout.box);
    this.sideNames.push(
      el('span', { class: 'side-name first' }, a?.label ?? ''),
      el('span', { class: 'side-name second' }, b?.label ?? ''),
    );
    this.seam.setAttribute('role', 'slider');
    this.seam.setAttribute('aria-label', `Seam: left of it ${a?.label}, right of it ${b?.label}`);
    this.seam.setAttribute('aria-valuemin', '0');
    this.seam.setAttribute('aria-valuemax', '100');
    const move = (to: number) => {
      this.stage.seam = Math.max(0.02, Math.min(0.98, to));
      view.style.setProperty('--seam', `${100 * this.stage.seam}%`);
      this.seam.setAttribute('aria-valuenow', String(Math.round(100 * this.stage.seam)));
      this.stage.draw();
    };
    move(0.5);
    this.seam.addEventListener('pointerdown', (e) => this.seam.setPointerCapture(e.pointerId));
    this.seam.addEventListener('pointermove', (e) => {
      if (e.buttons) {
        const box = view.getBoundingClientRect();
        move((e.clientX - box.left) / box.width);
      }
    });
    this.seam.addEventListener('keydown', (e) => {
      const by = e.key === 'ArrowLeft' ? -0.03 : e.key === 'ArrowRight' ? 0.03 : 0;
      if (by) {
        e.preventDefault();
        e.stopPropagation();
        move(this.stage.seam + by);
      }
    });
    this.key(',', () => move(this.stage.seam - 0.03));
    this.key('.', () => move(this.stage.seam + 0.03));
    view.append(...this.sideNames, this.seam);
  }

  private key(name: string, does: () => void) {
    this.keys.set(name, does);
  }

  private listen() {
    this.canvas.addEventListener('keydown', (e) => {
      const way: Record<string, [number, number]> = {
        ArrowLeft: [-1, 0],
        ArrowRight: [1, 0],
        ArrowUp: [0, 1],
        ArrowDown: [0, -1],
      };
      const to = way[e.key];
      if (to) {
        e.preventDefault();
        if (e.shiftKey) {
          this.stage.pan(to[0] * PAN, to[1] * PAN);
        } else {
          this.stage.turn(to[0] * TURN, to[1] * TURN);
        }
      } else if (e.key === '+' || e.key === '-') {
        this.stage.zoom(e.key === '+' ? 0.85 : 1.18);
      }
    });
    document.addEventListener('keydown', (e) => {
      const target = e.target as HTMLElement;
      const types = /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName);
      const presses = /^(BUTTON|SUMMARY)$/.test(target.tagName) && e.key === ' ';
      if (types || presses || e.ctrlKey || e.metaKey || e.altKey) {
        return;
      }
      const does = this.keys.get(e.key.toLowerCase());
      if (does) {
        e.preventDefault();
        does();
      }
    });
  }
}

function next(select: HTMLSelectElement) {
  select.selectedIndex = (select.selectedIndex + 1) % select.length;
  select.dispatchEvent(new Event('change'));
}
