import { catalogue } from '@pragmatica/core';

/** What the trail says of backups. */
export const COPY_TEXTS = catalogue('server.copies', {
  taken: 'Took a backup of the whole installation.',
  restored: 'Restored the installation from the backup of {at} UTC ({id}).',
  broughtBack: 'Brought the site back from the backup of {at} UTC ({id}).',
  made: 'Made the backup {file} on {machine}.',
  failed: 'No backup was made: {why}',
  schedule: 'schedule',
  removed: 'Removed the backup {file}.',
  fetched: 'Downloaded the backup {file}.',
  planned: 'Changed when backups are made and how long they are kept.',
  stopped: 'Pragmatica was stopped meanwhile. The next one is made as planned.',
  cancelled: 'Cancelled.',
  forsaken: 'Whatever made it has stopped. The next one is made as planned.',
  noRoom: 'There is no room for it on the disk. Make room, or keep fewer backups.',
  noAccess: 'Its folder cannot be written to. Whoever runs Pragmatica looks at PRAGMATICA_BACKUPS.',
  other: 'Something went wrong: {why}',
  broughtName: '{name} ({day})',
  untold: 'Not sent: it was waiting when the backup was made.',
});
