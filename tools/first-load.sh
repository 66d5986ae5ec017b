#!/bin/sh
# First-load JavaScript of the Bench, gzip: the entry chunk and what it imports
# at once (the Bench is not a lazy view).
set -e
node -e '
const m = JSON.parse(require("fs").readFileSync("web/dist/.vite/manifest.json"));
const zlib = require("zlib"), fs = require("fs"), seen = new Set();
const add = (k) => { if (seen.has(k)) return; seen.add(k); (m[k].imports || []).forEach(add); };
add("index.html");
let total = 0;
for (const k of seen) total += zlib.gzipSync(fs.readFileSync("web/dist/" + m[k].file), { level: 9 }).length;
console.log("first-load JavaScript of the Bench: " + (total / 1000).toFixed(1) + " kB compressed");
'
