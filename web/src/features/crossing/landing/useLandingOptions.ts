import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { FormatView, LandingOptions, Shore } from '../../../api/client';
import { queries } from '../../../api/queries';
import { complain } from '../../../shared/Notices';
import { type Touched, untouchedBy, withChoices } from './choices';

/**
 * The choices of a landing: as the shore asks for them until they are touched. They follow when
 * another shore or format is chosen.
 */
export function useLandingOptions(shore: Shore | undefined): {
  formats: FormatView[];
  /** Key of the chosen format; its options may still be on their way. */
  chosen: string | undefined;
  options: LandingOptions | undefined;
  set: (change: Partial<LandingOptions>) => void;
  setOption: (name: string, value: unknown) => void;
  setFormat: (key: string) => void;
} {
  const client = useQueryClient();
  const formats = useQuery(queries.formats()).data;
  const written = formats?.filter((f) => f.writes) ?? [];
  const [options, setOptions] = useState<LandingOptions>();
  const [chosen, setChosen] = useState<string>();
  const latest = useRef<string | undefined>(undefined);
  const touched = useRef<Touched>({});
  const standard = useRef<LandingOptions | undefined>(undefined);
  const follow = useCallback(
    (to: Shore, format: FormatView, otherShore: boolean) => {
      setChosen(format.key);
      latest.current = format.key;
      client
        .fetchQuery(queries.landingOn(to, format.key))
        .then((asked) => {
          if (latest.current !== asked.format) {
            // Another format was chosen meanwhile.
            return;
          }
          if (otherShore && standard.current?.format === asked.format) {
            touched.current = untouchedBy(asked, standard.current, touched.current);
          }
          standard.current = asked;
          setOptions((now) => withChoices(asked, format, now, touched.current));
        })
        .catch(complain);
    },
    [client],
  );
  const [followed, setFollowed] = useState<string | null>(null);
  useEffect(() => {
    if (shore && formats && followed !== shore.id) {
      const taken = shore.formats.flatMap((k) => formats.filter((f) => f.writes && f.key === k));
      const first = taken[0] ?? formats.find((f) => f.writes);
      setFollowed(shore.id);
      if (first) {
        follow(shore, first, true);
      }
    }
  }, [shore, formats, followed, follow]);
  return {
    formats: written,
    chosen,
    options: options?.format === chosen ? options : undefined,
    set: (change) => setOptions((o) => o && { ...o, ...change }),
    setOption: (name, value) => {
      touched.current = { ...touched.current, [name]: value };
      setOptions((o) => o && { ...o, options: { ...o.options, [name]: value } });
    },
    setFormat: (key) => {
      const format = written.find((f) => f.key === key);
      if (shore && format) {
        follow(shore, format, false);
      }
    },
  };
}
