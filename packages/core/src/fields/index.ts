export { writtenValue } from './escape.js';
export { filledCode, sourceRange } from './fill.js';
export { FIELD_NAME, FIELD_TYPES, type Field, type FieldType, type FieldUse } from './types.js';
export { fieldUses } from './uses.js';
export { fieldValue, fieldValueProblem, isLeftAtExample } from './values.js';
