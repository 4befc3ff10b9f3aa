import { catalogue } from './catalogue.js';

export const SNAPSHOT_TEXTS = catalogue('core.snapshot', {
  thereCountRanks: 'There are {count} ranks for {next} parts.',
  partName: '“{name}”',
  namePiece: '“{name}” (piece {number})',
});
