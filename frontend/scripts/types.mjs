// Writes the TypeScript types of what comes in and goes out from their JSON Schemas.
// Usage: node scripts/types.mjs OUT_FOLDER
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { compile } from "json-schema-to-typescript";

const out = process.argv[2] ?? "src/api/generated";

// The server always sends every field, and lists of any length; only pairs are worth a tuple type.
function asSent(node) {
  if (Array.isArray(node)) return node.map(asSent);
  if (node === null || typeof node !== "object") return node;
  const sent = Object.fromEntries(Object.entries(node).map(([key, value]) => [key, asSent(value)]));
  if (sent.type === "array" && !(sent.minItems === 2 && sent.maxItems === 2)) {
    delete sent.minItems;
    delete sent.maxItems;
  }
  if (sent.properties && sent.type === "object") sent.required = Object.keys(sent.properties);
  return sent;
}

await mkdir(out, { recursive: true });
for (const name of [
  "plan",
  "solution",
  "part",
  "addition",
  "card",
  "trial",
  "as-built",
  "best-origin",
  "hand-over",
]) {
  const schema = JSON.parse(await readFile(`../docs/schema/${name}.schema.json`, "utf8"));
  const text = await compile(asSent(schema), name, {
    additionalProperties: false,
    bannerComment: "/* Generated from docs/schema by script/format. Do not edit. */",
  });
  await writeFile(path.join(out, `${name}.ts`), text);
}
