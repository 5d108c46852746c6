import type { Asset } from './asset';
import { choice, el } from './dom';

/** Plays clips of all sides together, by their names; values set by hand stay over them. */
export class Player {
  readonly box = el('div', { class: 'player', role: 'group', ariaLabel: 'Clips' });
  private readonly names: string[];
  private readonly button: HTMLButtonElement;
  private readonly time: HTMLInputElement;
  private readonly told = el('output', { class: 'num' });
  private readonly select: HTMLSelectElement;
  private length = 0;
  private note = '';
  private seconds = 0;
  private running = 0;
  private last = 0;

  constructor(
    private readonly assets: Asset[],
    /** What the sides are called. */
    private readonly labels: string[],
    private readonly changed: () => void,
  ) {
    this.names = [...new Set(assets.flatMap((a) => a.clips.map((c) => c.name)))];
    this.button = el('button', { type: 'button', class: 'play', title: 'Play or stop (Space)' });
    this.button.addEventListener('click', () => this.toggle());
    this.time = el('input', { type: 'range', min: '0', step: 'any', ariaLabel: 'Time' });
    this.time.addEventListener('input', () => {
      this.stop();
      this.seek(Number(this.time.value));
    });
    const clips = choice(
      'Clip',
      'What moves ( [ and ] )',
      [...this.names.map((n): [string, string] => [n, n || '(no name)']), ['\0', 'No clip']],
      this.names[0] ?? '\0',
      (value) => this.choose(value === '\0' ? null : value),
    );
    this.select = clips.select;
    if (this.names.length > 0) {
      this.box.append(this.button, clips.box, this.time, this.told);
      this.choose(this.names[0] ?? null);
      if (!window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
        this.toggle();
      }
    }
    this.show();
  }

  choose(name: string | null) {
    for (const asset of this.assets) {
      asset.choose(name);
    }
    const clips = this.assets.flatMap((a) => a.clips.filter((c) => c.name === name));
    this.length = Math.max(0, ...clips.map((c) => c.duration));
    const without = this.assets.flatMap((a, i) =>
      name !== null && a.clips.every((c) => c.name !== name) ? [this.labels[i] ?? ''] : [],
    );
    this.note = without.map((label) => `, not in what is ${label}`).join('');
    this.time.max = String(this.length || 1);
    this.time.disabled = name === null;
    this.button.disabled = name === null;
    if (name === null) {
      this.stop();
    }
    this.seek(0);
  }

  /** The clip before or after. */
  step(by: number) {
    const index = (this.select.selectedIndex + by + this.select.length) % this.select.length;
    this.select.selectedIndex = index;
    this.select.dispatchEvent(new Event('change'));
  }

  toggle() {
    if (this.running) {
      this.stop();
    } else if (this.length > 0) {
      this.last = performance.now();
      this.running = requestAnimationFrame(this.next);
    }
    this.show();
  }

  private stop() {
    cancelAnimationFrame(this.running);
    this.running = 0;
    this.show();
  }

  private readonly next = (now: number) => {
    this.seek((this.seconds + (now - this.last) / 1000) % this.length);
    this.last = now;
    this.running = requestAnimationFrame(this.next);
  };

  private seek(seconds: number) {
    this.seconds = seconds;
    for (const asset of this.assets) {
      asset.seek(seconds);
    }
    this.time.value = String(seconds);
    this.told.textContent = `${seconds.toFixed(2)} of ${this.length.toFixed(2)} s${this.note}`;
    this.changed();
  }

  private show() {
    this.button.textContent = this.running ? 'Stop' : 'Play';
    this.button.setAttribute('aria-pressed', String(this.running !== 0));
  }
}
