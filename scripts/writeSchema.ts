// Writes docs/winding-record.schema.json from the program's own schema: `npm run schema`.
import { writeFileSync } from 'node:fs';
import { windingFileJsonSchema } from '@norther/core';

writeFileSync(
  new URL('../docs/winding-record.schema.json', import.meta.url),
  `${JSON.stringify(windingFileJsonSchema(), null, 2)}\n`,
);
