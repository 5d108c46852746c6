// node read-images.mjs FILE… : one JSON line a GLB with its images: KTX2 as three's transcoder reads them, of every level
// and in each form that graphics cards take; WebP by its head. `sum` adds each byte times 1 + its place modulo 97.
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const libs = path.join(path.dirname(require.resolve('three')), '../examples/jsm/libs/basis');
const script = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'basis')), 'transcoder.cjs');
fs.copyFileSync(path.join(libs, 'basis_transcoder.js'), script);
const basis = await require(script)({ wasmBinary: fs.readFileSync(path.join(libs, 'basis_transcoder.wasm')) });
basis.initializeBasis();
const RGBA = 13;
const FORMS = { etc1: 0, etc2: 1, bc1: 2, bc3: 3, bc7: 6, astc: 10, rgba: RGBA };

function ktx2(bytes) {
  const file = new basis.KTX2File(new Uint8Array(bytes));
  if (!file.isValid() || !file.startTranscoding()) {
    return { valid: false };
  }
  const failed = [];
  let sum = 0;
  for (let level = 0; level < file.getLevels(); level++) {
    for (const [name, form] of Object.entries(FORMS)) {
      const out = new Uint8Array(file.getImageTranscodedSizeInBytes(level, 0, 0, form));
      if (!file.transcodeImage(out, level, 0, 0, form, 0, -1, -1)) {
        failed.push(`${name} of level ${level}`);
      }
      if (form === RGBA && level === 0) {
        for (let i = 0; i < out.length; i++) {
          sum += out[i] * (1 + (i % 97));
        }
      }
    }
  }
  const said = {
    valid: true,
    width: file.getWidth(),
    height: file.getHeight(),
    levels: file.getLevels(),
    transfer: file.getDFDTransferFunc(),
    sum,
    failed,
  };
  file.close();
  file.delete();
  return said;
}

for (const name of process.argv.slice(2)) {
  const glb = fs.readFileSync(name);
  const length = glb.readUInt32LE(12);
  const json = JSON.parse(glb.subarray(20, 20 + length).toString('utf8'));
  const bin = glb.subarray(28 + length);
  const images = (json.images ?? []).map((image) => {
    const view = json.bufferViews[image.bufferView];
    const from = view.byteOffset ?? 0;
    const bytes = bin.subarray(from, from + view.byteLength);
    const webp = bytes.toString('latin1', 0, 4) === 'RIFF' && bytes.toString('latin1', 8, 12) === 'WEBP';
    return {
      name: image.name,
      type: image.mimeType,
      ...(image.mimeType === 'image/ktx2' ? ktx2(bytes) : { valid: image.mimeType !== 'image/webp' || webp }),
    };
  });
  console.log(JSON.stringify({ images }));
}
