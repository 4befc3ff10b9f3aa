import { hoursAt, zoneClock, type Hours } from '../reach/index.js';

/** One opening-hours rule, asked again and again as time goes on: worked out when it changes, not when it is asked. */
export class HoursClock {
  readonly #hours: Hours;
  readonly #zone: string;
  #since = Infinity;
  #until = -Infinity;
  #isOpen = false;

  constructor(hours: Hours, zone: string) {
    this.#hours = hours;
    this.#zone = zone;
  }

  /** Whether it is open, and the next change; milliseconds since 1970, `Infinity` where there is none. */
  at(now: number): { readonly isOpen: boolean; readonly until: number } {
    if (now < this.#since || now >= this.#until) {
      const { isOpen, until } = hoursAt(this.#hours, zoneClock(this.#zone), now);
      this.#isOpen = isOpen;
      this.#since = now;
      this.#until = until ?? Infinity;
    }
    return { isOpen: this.#isOpen, until: this.#until };
  }
}
