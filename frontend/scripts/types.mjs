// Writes the TypeScript types of what comes in and goes out from their JSON Schemas.
// Usage: node scripts/types.mjs OUT_FOLDER
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { compile } from "json-schema-to-typescript";

const out = process.argv[2] ?? "src/api/generated";

// Lists have any length, only pairs are worth a tuple type; and the server always sends every field,
// where of a request what need not be said may be left out.
function typed(node, whole) {
  if (Array.isArray(node)) return node.map((one) => typed(one, whole));
  if (node === null || typeof node !== "object") return node;
  const told = Object.fromEntries(
    Object.entries(node).map(([key, value]) => [key, typed(value, whole)]),
  );
  if (told.type === "array" && !(told.minItems === 2 && told.maxItems === 2)) {
    delete told.minItems;
    delete told.maxItems;
  }
  if (whole && told.properties && told.type === "object")
    told.required = Object.keys(told.properties);
  return told;
}

// What is not in a plan alone is told by the names of its types.
const IMPORTS = {
  sent: 'import type { Card } from "./card";\nimport type { Plan } from "./plan";\n',
};

await mkdir(out, { recursive: true });
for (const name of [
  "plan",
  "solution",
  "part",
  "card",
  "trial",
  "as-built",
  "best-origin",
  "hand-over",
  "asked",
  "sent",
]) {
  const schema = JSON.parse(await readFile(`../docs/schema/${name}.schema.json`, "utf8"));
  const text = await compile(typed(schema, name !== "asked"), name, {
    additionalProperties: false,
    bannerComment: `/* Generated from docs/schema by script/format. Do not edit. */\n${IMPORTS[name] ?? ""}`,
    unreachableDefinitions: !schema.properties,
  });
  await writeFile(path.join(out, `${name}.ts`), text);
}
