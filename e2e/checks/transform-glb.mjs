// node transform-glb.mjs FILE : what glTF-Transform finds in a file, packed or not: names, counts,
// every third position in its mesh, joints with their weights, morph targets and clip lengths.
import { NodeIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';

await MeshoptDecoder.ready;
const io = new NodeIO()
  .registerExtensions(ALL_EXTENSIONS)
  .registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
const root = (await io.read(process.argv[2])).getRoot();

function primitive(p) {
  const position = p.getAttribute('POSITION');
  const positions = [];
  for (let i = 0; i < position.getCount(); i += 3) positions.push(...position.getElement(i, []));
  let worst = 0;
  for (let set = 0; p.getAttribute(`WEIGHTS_${set}`); set++) {
    if (set > 0) continue;
    const weights = [];
    for (let s = 0; p.getAttribute(`WEIGHTS_${s}`); s++) weights.push(p.getAttribute(`WEIGHTS_${s}`));
    for (let i = 0; i < position.getCount(); i++) {
      const sum = weights.flatMap((w) => w.getElement(i, [])).reduce((a, b) => a + b, 0);
      worst = Math.max(worst, Math.abs(sum - 1));
    }
  }
  const indices = p.getIndices();
  return {
    positions,
    vertices: position.getCount(),
    indices: indices ? Array.from(indices.getArray()) : [],
    targets: p.listTargets().length,
    weightsOff: worst,
  };
}

console.log(
  JSON.stringify({
    nodes: root.listNodes().map((n) => n.getName()),
    meshes: root.listMeshes().map((m) => m.listPrimitives().map(primitive)),
    skins: root.listSkins().map((s) => s.listJoints().map((j) => j.getName())),
    clips: root.listAnimations().map((a) => ({
      name: a.getName(),
      channels: a.listChannels().length,
      end: Math.max(...a.listSamplers().map((s) => s.getInput().getMax([])[0])),
    })),
  }),
);
