export const SNAPSHOT_TEXTS = {
  thereCountRanks: 'There are {count} ranks for {next} parts.',
  name: '“{name}”',
  namePiece: '“{name}” (piece {number})',
} as const;
