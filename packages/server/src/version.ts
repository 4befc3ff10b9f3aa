/** Of the service. */
export const VERSION = '0.1.0';
