/**
 * What the service's database offers to gateways: three views, read only, and a channel to hear of changes on. The views
 * are the whole of what a gateway may know, so that tables can change without it.
 */

/** Channel on which gateways hear, at commit, that what a site serves has changed. */
export const RELEASE_CHANNEL = 'pragmatica_release';
/** Columns: host, environment, origin, transfer, site, release (id or null), delivery. */
export const HOST_VIEW = 'gateway_host';
/** Columns: id, number, digest, and what core's `thawSet` makes its set of: header (id of a content), snippets (ids). */
export const RELEASE_VIEW = 'gateway_release';
/** Columns: id, body. What one has never changes. */
export const CONTENT_VIEW = 'gateway_content';
