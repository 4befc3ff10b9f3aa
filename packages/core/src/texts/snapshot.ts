export const SNAPSHOT_TEXTS = {
  thereCountRanks: 'There are {count} ranks for {next} parts.',
  partName: '“{name}”',
  namePiece: '“{name}” (piece {number})',
} as const;
