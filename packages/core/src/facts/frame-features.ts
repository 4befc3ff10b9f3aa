/**
 * What a frame is to have of the browser, by its attributes (Permissions Policy, 9.4: "Process permissions policy
 * attributes").
 *
 * @param allow - value of its attribute `allow`
 * @param isFullscreen - it has `allowfullscreen`, which is older and says the same as `allow="fullscreen *"`
 */
export function featuresOfFrame(allow: string | undefined, isFullscreen: boolean): string[] {
  const listed = (allow ?? '').split(';').flatMap((directive) => {
    const [feature, ...origins] = directive.trim().split(/\s+/);
    const isNobody = origins.length === 1 && origins[0]!.toLowerCase() === "'none'";
    return !feature || isNobody ? [] : [feature.toLowerCase()];
  });
  return [...new Set(isFullscreen ? [...listed, 'fullscreen'] : listed)];
}
