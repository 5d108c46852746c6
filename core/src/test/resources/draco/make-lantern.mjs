// Makes lantern.glb of lantern-plain.glb, with @gltf-transform/core and /extensions 4 and draco3d 1.5.7 (npm): node make-lantern.mjs IN OUT
import { NodeIO } from '@gltf-transform/core'; import { ALL_EXTENSIONS, KHRDracoMeshCompression } from '@gltf-transform/extensions'; import draco3d from 'draco3d';
const io=new NodeIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({'draco3d.encoder':await draco3d.createEncoderModule(),'draco3d.decoder':await draco3d.createDecoderModule()});
const doc=await io.read(process.argv[2]); for (const t of doc.getRoot().listTextures()) t.dispose();
await io.write(process.argv[3].replace('.glb','_plain.glb'),doc);
doc.createExtension(KHRDracoMeshCompression).setRequired(true).setEncoderOptions({method:KHRDracoMeshCompression.EncoderMethod.EDGEBREAKER,quantizationBits:{POSITION:14,NORMAL:10,TEX_COORD:12}});
await io.write(process.argv[3],doc);
