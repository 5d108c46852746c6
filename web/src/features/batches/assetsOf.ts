import type { Incoming } from '../../api/upload';

/** One asset of a batch with its files, under their paths in it. */
export interface DroppedAsset {
  name: string;
  files: Incoming[];
}

const ZIP = 'zip';

const ending = (path: string) => path.slice(path.lastIndexOf('.') + 1).toLowerCase();

const stem = (path: string) =>
  path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]+$/, '') || path;

const top = (path: string) => (path.includes('/') ? path.slice(0, path.indexOf('/')) : '');

const without = (files: Incoming[], prefix: string): Incoming[] =>
  files
    .filter((f) => f.path.startsWith(prefix))
    .map((f) => ({ ...f, path: f.path.slice(prefix.length) }));

/**
 * The assets of a drop, as the command line finds them in a folder: scene files, zips, and folders
 * that hold scene files. A folder that was dropped alone is looked into. What lies loose beside
 * scene files goes with each of them; a point cache with the scene file of its name.
 *
 * @param scenes endings of scene files
 * @param caches endings of point caches
 */
export function assetsOf(files: Incoming[], scenes: string[], caches: string[]): DroppedAsset[] {
  const tops = new Set(files.map((f) => top(f.path)));
  if (tops.size === 1 && !tops.has('')) {
    return assetsOf(without(files, `${[...tops][0]}/`), scenes, caches);
  }
  const isScene = (path: string) => scenes.includes(ending(path));
  const isCache = (path: string) => caches.includes(ending(path));
  const loose = files.filter((f) => top(f.path) === '');
  const assets: DroppedAsset[] = [];
  const beside: Incoming[] = [];
  for (const folder of [...tops].filter((t) => t !== '').sort()) {
    const own = without(files, `${folder}/`);
    const holds = own.some((f) => isScene(f.path) || isCache(f.path) || ending(f.path) === ZIP);
    if (holds) {
      assets.push({ name: folder, files: own });
    } else {
      beside.push(...files.filter((f) => top(f.path) === folder));
    }
  }
  const main = loose.filter((f) => isScene(f.path) || ending(f.path) === ZIP);
  const others = loose.filter((f) => !main.includes(f) && !isCache(f.path));
  for (const file of main) {
    const own = loose.filter((f) => isCache(f.path) && stem(f.path) === stem(file.path));
    const around = ending(file.path) === ZIP ? [] : [...others, ...beside];
    assets.push({ name: stem(file.path), files: [file, ...own, ...around] });
  }
  for (const cache of loose.filter((f) => isCache(f.path))) {
    if (!main.some((f) => stem(f.path) === stem(cache.path))) {
      assets.push({ name: stem(cache.path), files: [cache] });
    }
  }
  return assets.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}
