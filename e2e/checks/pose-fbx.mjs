// node pose-fbx.mjs FILE : where three's FBXLoader and AnimationMixer put bones, and each 17th corner
// of every mesh, at rest and at eleven moments of each clip; names of bones and targets; what
// fbx-parser finds in the file.
import fs from 'node:fs';
import { FBXReader, parseBinary, parseText } from 'fbx-parser';
import { AnimationMixer, LoopOnce, Vector3 } from 'three';
import { FBXLoader } from 'three/examples/jsm/loaders/FBXLoader.js';

globalThis.self = globalThis;
globalThis.window = globalThis;
// Images need a browser; the figures here do not.
globalThis.document = {
  createElementNS: () => ({ addEventListener() {}, removeEventListener() {}, style: {} }),
};
console.warn = () => {};
const file = fs.readFileSync(process.argv[2]);
const data = file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength);
const root = new FBXLoader().parse(data, '');
const bones = [];
const targets = [];
root.traverse((o) => {
  if (o.isBone) bones.push(o.name);
  if (o.morphTargetDictionary) targets.push(...Object.keys(o.morphTargetDictionary));
});

function pose() {
  root.updateMatrixWorld(true);
  const meshes = [];
  const joints = {};
  root.traverse((o) => {
    if (o.isBone) joints[o.name] = new Vector3().setFromMatrixPosition(o.matrixWorld).toArray();
    if (o.isMesh) {
      if (o.isSkinnedMesh) o.skeleton.update();
      const points = [];
      const v = new Vector3();
      for (let i = 0; i < o.geometry.getAttribute('position').count; i += 17) {
        o.getVertexPosition(i, v).applyMatrix4(o.matrixWorld);
        points.push(v.x, v.y, v.z);
      }
      meshes.push({ name: o.name, points });
    }
  });
  return { meshes, joints };
}

const poses = [{ clip: '', part: 0, ...pose() }];
for (const clip of root.animations) {
  for (let k = 0; k <= 10; k++) {
    const mixer = new AnimationMixer(root);
    const action = mixer.clipAction(clip);
    action.setLoop(LoopOnce);
    action.clampWhenFinished = true;
    action.play();
    mixer.setTime((k / 10) * clip.duration);
    poses.push({ clip: clip.name, part: k / 10, duration: clip.duration, ...pose() });
    mixer.stopAllAction();
    mixer.uncacheRoot(root);
  }
}

const text = !file.subarray(0, 40).includes(0);
const reader = new FBXReader(text ? parseText(file.toString('utf8')) : parseBinary(file));
const settings = {};
for (const p of reader.node('GlobalSettings').node('Properties70').nodes('P')) {
  settings[p.fbxNode.props[0]] = p.fbxNode.props[4];
}
const models = reader
  .node('Objects')
  .nodes('Model')
  .map((n) => String(n.fbxNode.props[1]).split('\0')[0].replace('Model::', ''));
const corners = reader
  .node('Objects')
  .nodes('Geometry')
  .map((n) => n.node('PolygonVertexIndex')?.fbxNode.props[0].length ?? 0);
console.log(JSON.stringify({ bones, targets, poses, parsed: { settings, models, corners } }));
