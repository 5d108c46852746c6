// node read-glb.mjs FILE : what three's GLTFLoader makes of a GLB: world boxes, areas, names.
import fs from 'node:fs';
import { Box3, Triangle, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

globalThis.self = globalThis;
// Images need a browser; the figures here do not.
globalThis.createImageBitmap = async () => ({ width: 1, height: 1, close() {} });
const file = fs.readFileSync(process.argv[2]);
const data = file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength);
const gltf = await new GLTFLoader().parseAsync(data, '');
gltf.scene.updateMatrixWorld(true);
const box = new Box3().setFromObject(gltf.scene, true);
let area = 0;
let triangles = 0;
const names = [];
gltf.scene.traverse((o) => {
  if (o.isMesh) {
    names.push(o.material.name);
    const p = o.geometry.getAttribute('position');
    const index = o.geometry.getIndex();
    const t = new Triangle(new Vector3(), new Vector3(), new Vector3());
    for (let i = 0; i < index.count; i += 3) {
      for (const [k, v] of [[0, t.a], [1, t.b], [2, t.c]]) {
        v.fromBufferAttribute(p, index.getX(i + k)).applyMatrix4(o.matrixWorld);
      }
      area += t.getArea();
      triangles += 1;
    }
  }
});
console.log(
  JSON.stringify({ min: box.min.toArray(), max: box.max.toArray(), area, triangles, materials: names }),
);
