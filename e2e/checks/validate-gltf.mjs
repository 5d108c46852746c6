// node validate-gltf.mjs FILE… : one JSON line a file with the validator's errors and warnings.
import fs from 'node:fs';
import { faults } from './validation.mjs';

for (const file of process.argv.slice(2)) {
  const bad = await faults(file, fs.readFileSync(file));
  console.log(
    JSON.stringify({
      errors: bad.filter((m) => m.severity === 0).length,
      warnings: bad.filter((m) => m.severity === 1).length,
      messages: bad.map((m) => `${m.code} ${m.pointer}: ${m.message}`).slice(0, 20),
    }),
  );
}
