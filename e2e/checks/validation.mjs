// What the standards body's validator finds wrong in a glTF: its errors and warnings.
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';

const validator = createRequire(import.meta.url)('gltf-validator');

export async function faults(file, bytes) {
  const report = await validator.validateBytes(new Uint8Array(bytes), {
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
  return report.issues.messages.filter((m) => m.severity < 2 && !ktx2(m));
}
