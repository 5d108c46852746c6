// node read-usd.mjs FILE… : what two other readers make of a stage, a line for each file. three's
// loader (no composition but references, no morphs) and tinyusdz (composes; leaves out faces of five
// and more corners): world boxes, triangles, materials. Boxes are in the numbers of the file.
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { Box3, Vector3 } from 'three';
import { unzipSync } from 'three/examples/jsm/libs/fflate.module.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';

// Images need a browser; the figures here do not.
globalThis.document = {
  createElementNS: () => ({ addEventListener() {}, removeEventListener() {} }),
};
// The other reader refuses to run where it does not seem to be in a page.
process.type = 'renderer';
globalThis.window ??= globalThis;
const said = [];
const out = console.log;
for (const word of ['log', 'warn', 'error', 'info']) {
  console[word] = (...words) => said.push(words.join(' ').slice(0, 300));
}
const init = (await import('tinyusdz/tinyusdz.js')).default;
const tiny = await init({
  wasmBinary: fs.readFileSync(
    path.join(path.dirname(fileURLToPath(import.meta.resolve('tinyusdz/tinyusdz.js'))), 'tinyusdz.wasm'),
  ),
  print: (s) => said.push(String(s)),
  printErr: (s) => said.push(String(s)),
});

function three(bytes, folder) {
  const data = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  const root = new USDLoader().parse(data, folder);
  root.updateMatrixWorld(true);
  const box = new Box3();
  const meshes = [];
  let triangles = 0;
  root.traverse((o) => {
    if (!o.isMesh) {
      return;
    }
    const position = o.geometry.getAttribute('position');
    const index = o.geometry.getIndex();
    triangles += (index ? index.count : position.count) / 3;
    for (let i = 0; i < position.count; i++) {
      box.expandByPoint(new Vector3().fromBufferAttribute(position, i).applyMatrix4(o.matrixWorld));
    }
    const materials = Array.isArray(o.material) ? o.material : [o.material];
    meshes.push({
      name: o.name,
      materials: materials.map((m) => ({
        colour: m.color?.toArray().map((c) => Number(c.toFixed(4))),
        roughness: m.roughness,
        metalness: m.metalness,
        map: Boolean(m.map),
      })),
    });
  });
  return { min: box.min.toArray(), max: box.max.toArray(), triangles, meshes };
}

const list = (v) =>
  Array.isArray(v) ? v : v?.size ? Array.from({ length: v.size() }, (_, i) => v.get(i)) : [];

function other(bytes, file) {
  let root = bytes;
  let base = path.dirname(file);
  let zip = null;
  let name = file;
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    zip = unzipSync(bytes);
    name = Object.keys(zip)[0];
    base = path.posix.dirname(name);
    root = zip[name];
  }
  const asset = (p) => {
    if (zip) {
      return zip[path.posix.normalize(path.posix.join(base, p))];
    }
    const own = path.resolve(base, p);
    return fs.existsSync(own) ? new Uint8Array(fs.readFileSync(own)) : null;
  };
  const reader = new tiny.TinyUSDZLoaderNative();
  if (!reader.loadAsLayerFromBinary(root, name)) {
    throw new Error(reader.error());
  }
  const feed = (paths) => {
    for (const p of list(paths)) {
      const found = p && asset(p);
      if (found) {
        reader.setAsset(p, found);
      }
    }
  };
  reader.clearAssetSearchPaths();
  reader.addAssetSearchPath('./');
  reader.setBaseWorkingPath('./');
  if (list(reader.extractSublayerAssetPaths()).length > 0) {
    feed(reader.extractSublayerAssetPaths());
    reader.composeSublayers();
  }
  for (let i = 0, more = true; i < 8 && more; i++) {
    more = false;
    more = (reader.hasVariants() && reader.composeVariants()) || more;
    more = (reader.hasInherits() && reader.composeInherits()) || more;
    if (reader.hasReferences()) {
      feed(reader.extractReferencesAssetPaths());
      more = reader.composeReferences() || more;
    }
    if (reader.hasPayload()) {
      feed(reader.extractPayloadAssetPaths());
      more = reader.composePayload() || more;
    }
  }
  reader.layerToRenderScene();
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  let triangles = 0;
  let shown = 0;
  const walk = (node) => {
    if (node.nodeType === 'mesh') {
      const mesh = reader.getMesh(node.contentId);
      const g = node.globalMatrix;
      const p = mesh.points ?? [];
      shown += 1;
      triangles += (mesh.faceVertexIndices?.length ?? 0) / 3;
      for (let k = 0; k + 2 < p.length; k += 3) {
        for (let c = 0; c < 3; c++) {
          const v = p[k] * g[c] + p[k + 1] * g[4 + c] + p[k + 2] * g[8 + c] + g[12 + c];
          min[c] = Math.min(min[c], v);
          max[c] = Math.max(max[c], v);
        }
      }
    }
    for (const child of node.children ?? []) {
      walk(child);
    }
  };
  for (let i = 0; i < reader.numRootNodes(); i++) {
    walk(reader.getRootNode(i));
  }
  return { min, max, triangles, shown };
}

for (const file of process.argv.slice(2)) {
  const bytes = new Uint8Array(fs.readFileSync(file));
  const all = { file: path.basename(file) };
  for (const [name, read] of [['three', () => three(bytes, `${path.dirname(file)}/`)], ['tiny', () => other(bytes, file)]]) {
    try {
      all[name] = read();
    } catch (e) {
      all[name] = { error: String(e.message ?? e), said: said.slice(-5) };
    }
  }
  out(JSON.stringify(all));
}
process.exit(0);
