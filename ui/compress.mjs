// Writes beside each built file the one that a browser is sent: compressed once, as
// well as can be, instead of at each start of the program.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const folder = process.argv[2];
for (const name of readdirSync(folder, { recursive: true })) {
  if (!/\.(js|css|wasm|svg|html|webmanifest)$/.test(name) || name === 'index.html') continue;
  const file = join(folder, name);
  const text = readFileSync(file);
  const params = {
    [constants.BROTLI_PARAM_QUALITY]: 11,
    [constants.BROTLI_PARAM_LGWIN]: 24,
    [constants.BROTLI_PARAM_SIZE_HINT]: text.length,
  };
  writeFileSync(file + '.br', brotliCompressSync(text, { params }));
  writeFileSync(file + '.gz', gzipSync(text, { level: 9 }));
}
