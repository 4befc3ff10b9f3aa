import { catalogue } from '@pragmatica/core';

export const DOCTOR = catalogue('cli.doctor', {
  description:
    'examine the installation: database, disks, clocks, backups, workers, gateways, mail and hosts',
  onlyWrong: 'show only what is not well',
  asking: '{done} of {of} hosts have answered',
  line: '{name}: {said}',
  lineAbout: '{name} {about}: {said}',
  allWell: 'All is well.',
  found:
    '{problems, plural, =0 {No problem} one {One problem} other {# problems}}, {warnings, plural, =0 {no warning} one {one warning} other {# warnings}}.',
});
