// node read-obj.mjs FILE : what three's OBJLoader makes of an OBJ: triangles' positions and UVs.
import fs from 'node:fs';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';

const group = new OBJLoader().parse(fs.readFileSync(process.argv[2], 'utf8'));
const meshes = [];
group.traverse((o) => {
  if (o.isMesh) {
    const uv = o.geometry.getAttribute('uv');
    meshes.push({
      name: o.name,
      position: [...o.geometry.getAttribute('position').array],
      uv: uv ? [...uv.array] : null,
      groups: o.geometry.groups.length,
    });
  }
});
console.log(JSON.stringify(meshes));
