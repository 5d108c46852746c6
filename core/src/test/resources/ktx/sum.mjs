// Sums of the pixels of KTX2 files as three's transcoder reads them: node sum.mjs TRANSCODER_FOLDER FILE ...
import fs from 'fs';
import { createRequire } from 'module';
import os from 'os';
import path from 'path';
const [folder, ...files] = process.argv.slice(2);
const script = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'sum')), 'transcoder.cjs');
fs.copyFileSync(path.join(folder, 'basis_transcoder.js'), script);
const wasmBinary = fs.readFileSync(path.join(folder, 'basis_transcoder.wasm'));
const M = await createRequire(import.meta.url)(script)({ wasmBinary });
M.initializeBasis();
const formats = { etc1: 0, etc2: 1, bc1: 2, bc3: 3, bc7: 6, astc: 10, rgba: 13 };
for (const name of files) {
  const f = new M.KTX2File(new Uint8Array(fs.readFileSync(name)));
  if (!f.isValid() || !f.startTranscoding()) {
    console.log(name, 'is not valid');
    continue;
  }
  for (let level = 0; level < f.getLevels(); level++) {
    for (const [what, format] of Object.entries(formats)) {
      const out = new Uint8Array(f.getImageTranscodedSizeInBytes(level, 0, 0, format));
      if (!f.transcodeImage(out, level, 0, 0, format, 0, -1, -1)) console.log(name, level, what, 'fails');
      if (what === 'rgba' && level === 0) {
        let sum = 0;
        for (let i = 0; i < out.length; i++) sum += out[i] * (1 + (i % 97));
        console.log(name, f.getWidth(), f.getHeight(), f.getLevels(), 'levels', f.getHasAlpha(), sum);
      }
    }
  }
}
