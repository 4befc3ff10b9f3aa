import { clsx, type ClassValue } from 'clsx';
import { twMerge } from 'tailwind-merge';

/** Class names, the caller's last and stronger. */
export function cn(...classes: ClassValue[]): string {
  return twMerge(clsx(classes));
}
