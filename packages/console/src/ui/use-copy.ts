import { DELIVERY } from '../texts/delivery';
import { useToast } from './toast';

/** Copies a text, and says what to do with it now. */
export function useCopy(): (text: string, next: string) => void {
  const toast = useToast();
  return (text, next) => {
    navigator.clipboard.writeText(text).then(
      () => toast({ tone: 'done', title: DELIVERY.copied, text: next }),
      () => toast({ tone: 'problem', title: DELIVERY.notCopied }),
    );
  };
}
