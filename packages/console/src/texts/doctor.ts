import { catalogue } from '@pragmatica/core';

export const DOCTOR = catalogue('console.doctor', {
  title: 'Health',
  lead: 'What this installation needs to do its work: database, disks, backups, workers, gateway, mail and hosts.',
  examining: 'Looking: {done} of {of} hosts have answered',
  again: 'Look again',
  allWell: 'All is well.',
  found:
    '{problems, plural, =0 {No problem} one {One problem} other {# problems}}, {warnings, plural, =0 {no warning} one {one warning} other {# warnings}}.',
  wrong: 'Needs attention',
  well: 'In order',
  broke: 'The service broke off.',
  health: { well: 'In order', warning: 'Warning', problem: 'Problem' },
});
