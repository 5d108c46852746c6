// node look-fbx.mjs FILE… : what three's FBXLoader sees in FBX files, one JSON line a file: paths of
// nodes, triangles by material, morph targets, materials, clips. Where things stand is left to
// readers that know all of the format's transforms.
import fs from 'node:fs';
import { FBXLoader } from 'three/examples/jsm/loaders/FBXLoader.js';

globalThis.self = globalThis;
globalThis.window = globalThis;
// Images need a browser; the figures here do not.
globalThis.document = {
  createElementNS: () => ({ addEventListener() {}, removeEventListener() {}, style: {} }),
};
console.warn = () => {};

function triangles(mesh) {
  const counts = {};
  const all = Array.isArray(mesh.material) ? mesh.material : [mesh.material];
  const count = mesh.geometry.getAttribute('position').count;
  const groups = mesh.geometry.groups.length > 0 ? mesh.geometry.groups : [{ count, materialIndex: 0 }];
  for (const group of groups) {
    const given = all[group.materialIndex ?? 0]?.name ?? '';
    const name = given === '__DEFAULT' ? '' : given;
    counts[name] = (counts[name] ?? 0) + group.count / 3;
  }
  return counts;
}

function look(file) {
  const bytes = fs.readFileSync(file);
  const data = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  const root = new FBXLoader().parse(data, '');
  const nodes = [];
  const meshes = [];
  const materials = new Map();
  const walk = (object, above) => {
    // A bone that several skins use is doubled here, one inside the other.
    const doubled = object.isBone && object.parent?.isBone && object.parent.name === object.name;
    if (doubled) {
      for (const child of object.children) walk(child, above);
      return;
    }
    const path = above + (object.userData.originalName ?? object.name);
    nodes.push({ path });
    if (object.isMesh) {
      meshes.push({
        path,
        triangles: triangles(object),
        morphs: Object.keys(object.morphTargetDictionary ?? {}),
      });
      for (const m of [object.material].flat()) materials.set(m.name, m);
    }
    for (const child of object.children) walk(child, `${path}/`);
  };
  // A single group at the top stands for the scene here.
  if (root.userData.originalName !== undefined) walk(root, '');
  else for (const child of root.children) walk(child, '');
  return {
    nodes,
    meshes,
    materials: [...materials.values()].map((m) => ({
      name: m.name,
      base: m.color?.toArray(),
      map: Boolean(m.map),
    })),
    clips: root.animations.map((c) => ({ name: c.name, seconds: c.duration })),
  };
}

for (const file of process.argv.slice(2)) {
  try {
    console.log(JSON.stringify(look(file)));
  } catch (problem) {
    console.log(JSON.stringify({ problem: String(problem) }));
  }
}
