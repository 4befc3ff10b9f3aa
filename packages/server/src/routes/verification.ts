import type { HandlersOf } from '../http/context.js';
import { ServiceError } from '../errors.js';
import { knownPages } from '../pages/known-pages.js';
import type { Visiting } from '../pages/page-skeletons.js';
import { findSite } from '../site/site-lock.js';
import { HostEntity, PointerEntity, type Release } from '../storage/entities/index.js';
import { releaseSnapshot } from '../storage/releases.js';
import { verifySite } from '../verify/verify-site.js';

export function verificationHandlers({ readers, client }: Visiting): HandlersOf<'verify'> {
  return {
    async *verify({ params, body }, { em }) {
      const { environment } = body;
      const site = await findSite(em, params.site);
      const host = await em.findOne(HostEntity, { site, environment }, { orderBy: { position: 'asc' } });
      if (!host)
        throw new ServiceError(
          'not-found',
          `The site has no ${environment} host, so there is nothing to visit. Add one first.`,
        );
      const pointer = await em.findOne(PointerEntity, { site, environment }, { populate: ['release'] });
      if (!pointer)
        throw new ServiceError(
          'not-found',
          `Nothing was published to ${environment} yet, so no snippet is expected there.`,
        );
      const { release } = pointer;
      const paths = body.paths ?? (await knownPages(host, client)).paths;
      yield* verifySite({
        address: host.address ?? `http://${host.host}`,
        paths,
        release: release.number,
        snapshot: await releaseSnapshot(em, release as Release),
        host: host.host,
        environment,
        readers,
        client,
      });
    },
  };
}
