// node time-fbx.mjs FILE : best of three of three's FBXLoader, in seconds.
import fs from 'node:fs';
import { FBXLoader } from 'three/examples/jsm/loaders/FBXLoader.js';

globalThis.self = globalThis;
globalThis.window = globalThis;
console.warn = () => {};
let best = Infinity;
for (let i = 0; i < 3; i++) {
  const start = performance.now();
  const file = fs.readFileSync(process.argv[2]);
  new FBXLoader().parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength), '');
  best = Math.min(best, (performance.now() - start) / 1000);
}
console.log(best);
