import { type About, readAbout } from './about';
import { arrive } from './arrival';
import { Asset, bringTogether } from './asset';
import { el } from './dom';
import css from './handover.css?inline';
import { Page } from './page';

/** Shares of the progress: what arrives, then what is made of it. */
const ARRIVING = 0.85;

function bar() {
  const meter = el('progress', { max: 1, value: 0, ariaLabel: 'Loading' });
  const told = el('p', { role: 'status' }, 'Loading …');
  const box = el('div', { class: 'loading' }, told, meter);
  return {
    box,
    tell(share: number, words: string) {
      meter.value = share;
      told.textContent = `${words} ${Math.round(100 * share)} %`;
    },
  };
}

async function assets(about: About, tell: (share: number, words: string) => void) {
  const all: Asset[] = [];
  const count = about.sides.length;
  for (const [i, side] of about.sides.entries()) {
    const words = count > 1 ? `Loading what is ${side.label} …` : 'Loading …';
    const glb = await arrive(about, i, (share) => tell((i + share * ARRIVING) / count, words));
    all.push(await Asset.parse(glb));
    tell((i + 1) / count, words);
  }
  return all;
}

async function start() {
  document.head.append(el('style', {}, css));
  const progress = bar();
  const main = el('main', {}, progress.box);
  document.body.prepend(main);
  try {
    const about = readAbout();
    const shown = await assets(about, progress.tell);
    const [first, second] = shown;
    const together = first && second ? bringTogether(first, second) : '';
    progress.box.remove();
    new Page(about, shown, together, main);
    document.body.dataset.ready = 'true';
  } catch (e) {
    progress.box.replaceChildren(
      el('p', { role: 'alert', class: 'lost' }, (e as Error).message || String(e)),
    );
  }
}

void start();
