// The API's types from its OpenAPI document; what is uploaded is a File.
import { readFile, writeFile } from "node:fs/promises";
import openapiTS, { astToString } from "openapi-typescript";
import ts from "typescript";

const document = JSON.parse(await readFile(new URL("../../docs/openapi.json", import.meta.url), "utf-8"));
const types = await openapiTS(document, {
  defaultNonNullable: false,
  transform: (schema) =>
    schema.format === "binary"
      ? ts.factory.createTypeReferenceNode(ts.factory.createIdentifier("File"))
      : undefined,
});
await writeFile(new URL("../src/api/schema.d.ts", import.meta.url), astToString(types));
