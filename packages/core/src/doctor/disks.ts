import { byteWords } from '../texts/byte-words.js';
import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import type { DiskFacts, Examination, Health } from './types.js';

const GIGABYTE = 1_000_000_000;
/** Less than so much, or less than such a part of it, is little. */
const LOW = { bytes: 2 * GIGABYTE, share: 0.1 } as const;
const VERY_LOW = { bytes: GIGABYTE / 4, share: 0.02 } as const;

export const disks: Examination = {
  id: 'disk',
  examine({ disks: all }) {
    return all.map((disk) => {
      const health = healthOf(disk);
      const sizes = { free: byteWords(disk.freeBytes), all: byteWords(disk.allBytes) };
      const said = say(health === 'well' ? DOCTOR_TEXTS.diskWell : DOCTOR_TEXTS.diskLow, sizes);
      return { about: disk.folder, health, said, advice: health === 'well' ? '' : DOCTOR_TEXTS.diskAdvice };
    });
  },
};

/** On a large disk a small part is much, and on a small one much of it is little. */
function healthOf({ freeBytes, allBytes }: DiskFacts): Health {
  const isBelow = ({ bytes, share }: { readonly bytes: number; readonly share: number }): boolean =>
    freeBytes < bytes && freeBytes < allBytes * share;
  if (isBelow(VERY_LOW)) return 'problem';
  return isBelow(LOW) ? 'warning' : 'well';
}
