import { Migration20261123000000 } from './Migration20261123000000.js';
import { Migration20261123170000 } from './Migration20261123170000.js';
import { Migration20261123200000 } from './Migration20261123200000.js';
import { Migration20261127000000 } from './Migration20261127000000.js';
import { Migration20261127120000 } from './Migration20261127120000.js';
import { Migration20261128000000 } from './Migration20261128000000.js';
import { Migration20261128090000 } from './Migration20261128090000.js';
import { Migration20261128100000 } from './Migration20261128100000.js';
import { Migration20261128110000 } from './Migration20261128110000.js';
import { Migration20261128120000 } from './Migration20261128120000.js';
import { Migration20261128130000 } from './Migration20261128130000.js';
import { Migration20261128140000 } from './Migration20261128140000.js';
import { Migration20261128150000 } from './Migration20261128150000.js';
import { Migration20261128160000 } from './Migration20261128160000.js';
import { Migration20261128170000 } from './Migration20261128170000.js';
import { Migration20261128180000 } from './Migration20261128180000.js';
import { Migration20261128190000 } from './Migration20261128190000.js';
import { Migration20261128200000 } from './Migration20261128200000.js';
import { Migration20261128210000 } from './Migration20261128210000.js';
import { Migration20261128220000 } from './Migration20261128220000.js';
import { Migration20261128230000 } from './Migration20261128230000.js';
import { Migration20261129000000 } from './Migration20261129000000.js';

/** All migrations in order. One more is one more file and one more line. */
export const migrations = [
  { name: 'Migration20261123000000', class: Migration20261123000000 },
  { name: 'Migration20261123170000', class: Migration20261123170000 },
  { name: 'Migration20261123200000', class: Migration20261123200000 },
  { name: 'Migration20261127000000', class: Migration20261127000000 },
  { name: 'Migration20261127120000', class: Migration20261127120000 },
  { name: 'Migration20261128000000', class: Migration20261128000000 },
  { name: 'Migration20261128090000', class: Migration20261128090000 },
  { name: 'Migration20261128100000', class: Migration20261128100000 },
  { name: 'Migration20261128110000', class: Migration20261128110000 },
  { name: 'Migration20261128120000', class: Migration20261128120000 },
  { name: 'Migration20261128130000', class: Migration20261128130000 },
  { name: 'Migration20261128140000', class: Migration20261128140000 },
  { name: 'Migration20261128150000', class: Migration20261128150000 },
  { name: 'Migration20261128160000', class: Migration20261128160000 },
  { name: 'Migration20261128170000', class: Migration20261128170000 },
  { name: 'Migration20261128180000', class: Migration20261128180000 },
  { name: 'Migration20261128190000', class: Migration20261128190000 },
  { name: 'Migration20261128200000', class: Migration20261128200000 },
  { name: 'Migration20261128210000', class: Migration20261128210000 },
  { name: 'Migration20261128220000', class: Migration20261128220000 },
  { name: 'Migration20261128230000', class: Migration20261128230000 },
  { name: 'Migration20261129000000', class: Migration20261129000000 },
] as const;
