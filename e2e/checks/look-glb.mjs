// node look-glb.mjs FILE… : what three's GLTFLoader and the standards body's validator see in GLB
// files, one JSON line a file: nodes with their origins, meshes with boxes and triangles by
// material, materials, clips with boxes at five moments, cameras, lights, errors and warnings.
import fs from 'node:fs';
import { AnimationMixer, Box3, DoubleSide, LoopOnce, Matrix4, Vector3 } from 'three';
import { MeshoptDecoder } from 'three/examples/jsm/libs/meshopt_decoder.module.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { faults } from './validation.mjs';

const PARTS = [0, 0.25, 0.5, 0.75, 1];

globalThis.self = globalThis;
// Images need a browser; the figures here do not.
globalThis.createImageBitmap = async () => ({ width: 1, height: 1, close() {} });
console.warn = () => {};

/** Nodes of the file in order, with their paths and all that they draw. */
function nodesOf(gltf) {
  const nodes = [];
  const walk = (object, above, owner) => {
    const association = gltf.parser.associations.get(object);
    let here = owner;
    let prefix = above;
    if (association?.nodes !== undefined && association.nodes !== owner?.index) {
      here = { index: association.nodes, path: above + (object.userData.name ?? ''), object, meshes: [] };
      nodes.push(here);
      prefix = `${here.path}/`;
    }
    if (object.isMesh && here) here.meshes.push(object);
    for (const child of object.children) walk(child, prefix, here);
  };
  for (const child of gltf.scene.children) walk(child, '', null);
  return nodes;
}

/** What is drawn, part by part: a node that lists places of its mesh draws one part at each. */
function parts(nodes) {
  return nodes
    .filter((n) => n.meshes.length > 0)
    .flatMap((n) => {
      const count = n.meshes[0].isInstancedMesh ? n.meshes[0].count : 0;
      if (count === 0) return [{ path: n.path, meshes: n.meshes, place: -1 }];
      const name = n.path.slice(n.path.lastIndexOf('/') + 1);
      return Array.from({ length: count }, (_, i) => ({
        path: `${n.path}/${name}_${i + 1}`,
        meshes: n.meshes,
        place: i,
      }));
    });
}

function box({ meshes, place }) {
  const all = new Box3();
  const v = new Vector3();
  const inside = new Matrix4();
  for (const mesh of meshes) {
    if (place >= 0) mesh.getMatrixAt(place, inside);
    if (mesh.isSkinnedMesh) mesh.skeleton.update();
    const used = mesh.geometry.index;
    const count = used ? used.count : mesh.geometry.getAttribute('position').count;
    for (let i = 0; i < count; i++) {
      mesh.getVertexPosition(used ? used.getX(i) : i, v).applyMatrix4(inside).applyMatrix4(mesh.matrixWorld);
      all.expandByPoint(v);
    }
  }
  return [...all.min.toArray(), ...all.max.toArray()];
}

function boxes(gltf, nodes) {
  gltf.scene.updateMatrixWorld(true);
  return parts(nodes).map((n) => ({ path: n.path, box: box(n) }));
}

function triangles(meshes) {
  const counts = {};
  for (const mesh of meshes) {
    if (!mesh.isMesh) continue;
    const g = mesh.geometry;
    const name = mesh.material.name === '' ? '' : mesh.material.name;
    counts[name] = (counts[name] ?? 0) + (g.index ? g.index.count : g.attributes.position.count) / 3;
  }
  return counts;
}

function material(m) {
  const maps = {};
  for (const key of ['map', 'normalMap', 'roughnessMap', 'metalnessMap', 'aoMap', 'emissiveMap']) {
    maps[key] = Boolean(m[key]);
  }
  return {
    name: m.name,
    base: m.color.toArray(),
    metallic: m.metalness ?? 0,
    roughness: m.roughness ?? 1,
    emissive: m.emissive ? m.emissive.toArray().map((c) => c * m.emissiveIntensity) : [0, 0, 0],
    opacity: m.opacity,
    double: m.side === DoubleSide,
    maps,
  };
}

async function look(file) {
  const bytes = fs.readFileSync(file);
  const bad = await faults(file, bytes);
  const warnings = bad.map((m) => `${m.code} ${m.pointer}: ${m.message}`);
  const data = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  // three numbers meshes of one name without looking whether a node has the name that comes of
  // it ("stone" becomes "stone_10"), and then moves the wrong one: here meshes have no names.
  const nameless = (parser) => {
    for (const mesh of parser.json.meshes ?? []) delete mesh.name;
    return { name: 'nameless-meshes' };
  };
  const loader = new GLTFLoader().setMeshoptDecoder(MeshoptDecoder).register(nameless);
  const gltf = await loader.parseAsync(data, '');
  gltf.scene.updateMatrixWorld(true);
  const nodes = nodesOf(gltf);
  const at = new Vector3();
  const materials = new Map();
  let cameras = 0;
  let lights = 0;
  gltf.scene.traverse((o) => {
    if (o.isMesh && o.material.name !== '') materials.set(o.material.name, o.material);
    cameras += o.isCamera ? 1 : 0;
    lights += o.isLight ? 1 : 0;
  });
  const clips = [];
  for (const clip of gltf.animations) {
    const poses = [];
    for (const part of PARTS) {
      const mixer = new AnimationMixer(gltf.scene);
      const action = mixer.clipAction(clip);
      action.setLoop(LoopOnce);
      action.clampWhenFinished = true;
      action.play();
      mixer.setTime(part * clip.duration);
      poses.push({ part, boxes: boxes(gltf, nodes) });
      mixer.stopAllAction();
      mixer.uncacheRoot(gltf.scene);
    }
    clips.push({ name: clip.name, seconds: clip.duration, poses });
  }
  gltf.scene.updateMatrixWorld(true);
  return {
    nodes: nodes.map((n) => ({
      path: n.path,
      at: at.setFromMatrixPosition(n.object.matrixWorld).toArray(),
    })),
    meshes: parts(nodes).map((n) => ({
      path: n.path,
      box: box(n),
      triangles: triangles(n.meshes),
      morphs: Object.keys(n.meshes[0].morphTargetDictionary ?? {}),
    })),
    materials: [...materials.values()].map(material),
    clips,
    cameras,
    lights,
    warnings,
  };
}

for (const file of process.argv.slice(2)) {
  try {
    console.log(JSON.stringify(await look(file)));
  } catch (problem) {
    console.log(JSON.stringify({ problem: String(problem) }));
  }
}
