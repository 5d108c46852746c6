// node validate-gltf.mjs FILE… : one JSON line a file with the validator's errors and warnings.
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';

const validator = createRequire(import.meta.url)('gltf-validator');
for (const file of process.argv.slice(2)) {
  const report = await validator.validateBytes(new Uint8Array(fs.readFileSync(file)), {
    uri: path.basename(file),
    maxIssues: 0,
    writeTimestamp: false,
    externalResourceFunction: async (uri) =>
      new Uint8Array(fs.readFileSync(path.resolve(path.dirname(file), decodeURIComponent(uri)))),
  });
  // This validator does not know KTX2, which KHR_texture_basisu names.
  const ktx2 = (m) =>
    (m.code === 'IMAGE_UNRECOGNIZED_FORMAT' || m.message.includes("'image/ktx2'")) &&
    report.info.extensionsUsed?.includes('KHR_texture_basisu');
  const bad = report.issues.messages.filter((m) => m.severity < 2 && !ktx2(m));
  console.log(
    JSON.stringify({
      errors: bad.filter((m) => m.severity === 0).length,
      warnings: bad.filter((m) => m.severity === 1).length,
      messages: bad.map((m) => `${m.code} ${m.pointer}: ${m.message}`).slice(0, 20),
    }),
  );
}
