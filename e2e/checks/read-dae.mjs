// node read-dae.mjs FILE : what three's ColladaLoader makes of a file: world box, triangles, area,
// names, materials, joints, and where the vertices of skinned meshes stand at moments of its clip.
import fs from 'node:fs';
import { DOMParser } from '@xmldom/xmldom';
import { AnimationMixer, Box3, Triangle, Vector3 } from 'three';
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js';

// What it says of versions and axes is no answer of ours.
for (const word of ['log', 'debug', 'info', 'warn']) {
  console[word] = () => {};
}
// What the loader asks of a browser's document.
globalThis.DOMParser = DOMParser;
globalThis.self = globalThis;
globalThis.document = { createElementNS: () => ({ addEventListener() {}, removeEventListener() {} }) };
const loaded = new ColladaLoader().parse(fs.readFileSync(process.argv[2], 'utf8'), '');
const scene = loaded.scene;

function look() {
  scene.updateMatrixWorld(true);
  const box = new Box3();
  let area = 0;
  let triangles = 0;
  const t = new Triangle(new Vector3(), new Vector3(), new Vector3());
  scene.traverse((o) => {
    if (!o.isMesh) {
      return;
    }
    o.skeleton?.update();
    const p = o.geometry.getAttribute('position');
    for (let i = 0; i + 2 < p.count; i += 3) {
      for (const [k, v] of [[0, t.a], [1, t.b], [2, t.c]]) {
        o.getVertexPosition(i + k, v).applyMatrix4(o.matrixWorld);
        box.expandByPoint(v);
      }
      area += t.getArea();
      triangles += 1;
    }
  });
  return { min: box.min.toArray(), max: box.max.toArray(), area, triangles };
}

const rest = look();
const moments = [];
const clip = scene.animations?.[0] ?? loaded.animations?.[0];
if (clip && process.argv[3]) {
  const mixer = new AnimationMixer(scene);
  mixer.clipAction(clip).play();
  for (const time of process.argv[3].split(',').map(Number)) {
    mixer.setTime(time);
    moments.push(look());
  }
}
const materials = new Set();
const joints = [];
scene.traverse((o) => {
  [o.material ?? []].flat().forEach((m) => materials.add(m.name));
  if (o.isBone) {
    joints.push(o.name);
  }
});
process.stdout.write(`${JSON.stringify({ ...rest, moments, materials: [...materials], joints })}\n`);
