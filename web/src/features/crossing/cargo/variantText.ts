/** Variants that are chosen before what the files choose, by prim and set. */
export type Variants = Record<string, Record<string, string>>;

const CHOICE = /(\/[^{}\s]*)\{([^=}]+)=([^}]*)\}/g;

/** Reads what {@link variantText} writes: /Prim{set=variant}, with spaces between. */
export function variantsOf(text: string): Variants {
  const variants: Variants = {};
  for (const [, prim, set, name] of text.matchAll(CHOICE)) {
    variants[prim as string] = { ...variants[prim as string], [set as string]: name as string };
  }
  return variants;
}

export function variantText(variants: Variants): string {
  return Object.entries(variants)
    .flatMap(([prim, sets]) => Object.entries(sets).map(([set, name]) => `${prim}{${set}=${name}}`))
    .join(' ');
}

/** Which payloads are read, once one of them is switched. */
export function payloadText(
  payloads: { prim: string; loaded: boolean }[],
  prim: string,
  loaded: boolean,
): string {
  const prims = [...new Set(payloads.map((p) => p.prim))];
  const on = prims.filter((p) =>
    p === prim ? loaded : payloads.some((one) => one.prim === p && one.loaded),
  );
  return on.length === prims.length ? 'all' : on.length === 0 ? 'none' : on.join(' ');
}
