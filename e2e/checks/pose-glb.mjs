// node pose-glb.mjs FILE : where three's GLTFLoader and AnimationMixer put vertices: of every mesh
// each 17th, in the rest pose and at five moments of each clip, with names of joints and targets.
import fs from 'node:fs';
import { AnimationMixer, LoopOnce, Vector3 } from 'three';
import { MeshoptDecoder } from 'three/examples/jsm/libs/meshopt_decoder.module.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

globalThis.self = globalThis;
// Images need a browser; the figures here do not.
globalThis.createImageBitmap = async () => ({ width: 1, height: 1, close() {} });
const file = fs.readFileSync(process.argv[2]);
const data = file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength);
const gltf = await new GLTFLoader().setMeshoptDecoder(MeshoptDecoder).parseAsync(data, '');
const joints = [];
const targets = [];
gltf.scene.traverse((o) => {
  if (o.isSkinnedMesh) joints.push(...o.skeleton.bones.map((b) => b.name));
  if (o.morphTargetDictionary) targets.push(...Object.keys(o.morphTargetDictionary));
});

function pose() {
  gltf.scene.updateMatrixWorld(true);
  const meshes = [];
  gltf.scene.traverse((o) => {
    if (o.isMesh) {
      if (o.isSkinnedMesh) o.skeleton.update();
      const points = [];
      const v = new Vector3();
      for (let i = 0; i < o.geometry.getAttribute('position').count; i += 17) {
        o.getVertexPosition(i, v).applyMatrix4(o.matrixWorld);
        points.push(v.x, v.y, v.z);
      }
      meshes.push(points);
    }
  });
  return meshes;
}

const poses = [{ clip: '', part: 0, meshes: pose() }];
for (const clip of gltf.animations) {
  for (const part of [0, 0.25, 0.4, 0.75, 1]) {
    const mixer = new AnimationMixer(gltf.scene);
    const action = mixer.clipAction(clip);
    action.setLoop(LoopOnce);
    action.clampWhenFinished = true;
    action.play();
    mixer.setTime(part * clip.duration);
    poses.push({ clip: clip.name, part, duration: clip.duration, meshes: pose() });
    mixer.stopAllAction();
    mixer.uncacheRoot(gltf.scene);
  }
}
console.log(JSON.stringify({ joints, targets, poses }));
