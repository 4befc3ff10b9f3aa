declare const configuration: { readonly forbidden: readonly object[]; readonly options: object };
export default configuration;
export const CORE_LAYERS: readonly string[];
export const SERVER_LAYERS: readonly string[];
