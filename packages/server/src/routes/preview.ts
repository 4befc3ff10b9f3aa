import type { HandlersOf } from '../http/context.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import { makePreview } from '../preview/make-preview.js';
import type { Settings } from '../settings.js';

export function previewHandlers(settings: Settings, box: SecretBox): HandlersOf<'makePreview'> {
  return {
    async makePreview({ params, body }, context) {
      return { data: await makePreview({ settings, box }, params.site, body, context) };
    },
  };
}
