import { useSiteKey } from '../../layout/site-layout';
import { FileSection } from './file-section';

/** The site as a file, and a set from a file. */
export function FilesView() {
  return (
    <div className="max-w-4xl">
      <FileSection site={useSiteKey()} />
    </div>
  );
}
