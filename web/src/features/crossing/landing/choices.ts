import type { FormatView, LandingOptions } from '../../../api/client';

/** Values of a format's options that a user set, by their names. */
export type Touched = Record<string, unknown>;

/**
 * A shore's standard landing with what the user chose before: what is not of the format, and those
 * of the touched options that the format has too.
 */
export function withChoices(
  standard: LandingOptions,
  format: FormatView,
  before: LandingOptions | undefined,
  touched: Touched,
): LandingOptions {
  const names = new Set(format.fields.map((f) => f.name));
  const kept = Object.fromEntries(Object.entries(touched).filter(([name]) => names.has(name)));
  return {
    ...standard,
    doubleSided: before?.doubleSided ?? standard.doubleSided,
    fileName: before?.fileName ?? standard.fileName,
    parts: before?.parts ?? standard.parts,
    contents: before?.contents ?? standard.contents,
    options: { ...standard.options, ...kept },
  };
}

/** Of the touched options those of which another shore asks nothing else than the one before. */
export function untouchedBy(
  standard: LandingOptions,
  earlier: LandingOptions | undefined,
  touched: Touched,
): Touched {
  return Object.fromEntries(
    Object.entries(touched).filter(
      ([name]) => earlier === undefined || earlier.options[name] === standard.options[name],
    ),
  );
}
