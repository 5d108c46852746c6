import { queryOptions } from '@tanstack/react-query';
import {
  type Atlas,
  type Batch,
  type BatchDetail,
  type CargoView,
  type Compared,
  type Crossing,
  type Forecast,
  type FormatView,
  getJson,
  type HandlingState,
  type ImageLossView,
  type Job,
  type LandingOptions,
  type LandingView,
  type LayerRow,
  type LedgerPage,
  type LedgerRow,
  type LookTable,
  type MarksView,
  type MaterialBench,
  type MotionApart,
  type NamedState,
  type PartView,
  type PreviewCurves,
  type PreviewTracks,
  type ReflectionLoss,
  type Routine,
  type Shore,
  type ShoreView,
  type SideView,
  type StepKind,
  type Storage,
  type SurveyView,
  sendJson,
} from './client';
import { farView } from './farView';

/** Two states whose motion is compared. */
export interface ApartAsk {
  a: string;
  b: string;
  clip: number;
  sameSpot: boolean;
  starts: boolean;
  /** Part that is compared, −1 for all. */
  node: number;
}

/** Key and fetch of every server value in one place. */
/** Whose rows: those of a landing, of two states, or of both sides. */
export type LedgerOf = { landing: string } | { a: string; b: string } | { sides: true };

/** Which rows: the first of those that fit. */
export interface LedgerAsked {
  verdict: LedgerRow['verdict'] | null;
  find: string;
  count: number;
}

export const queries = {
  storage: () =>
    queryOptions({
      queryKey: ['crossings', 'storage'],
      queryFn: () => getJson<Storage>('/api/storage'),
    }),
  crossings: () =>
    queryOptions({
      queryKey: ['crossings'],
      queryFn: () => getJson<Crossing[]>('/api/crossings'),
    }),
  crossing: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id],
      queryFn: () => getJson<Crossing>(`/api/crossings/${id}`),
      // An event tells when it is read; should it be lost, the page must not wait for ever.
      refetchInterval: (query) => (query.state.data?.state === 'reading' ? 3000 : false),
    }),
  // What files are used for is known once they are read.
  cargo: (id: string, state: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'cargo', state],
      queryFn: () => getJson<CargoView>(`/api/crossings/${id}/cargo`),
      placeholderData: (before: CargoView | undefined, query) =>
        query?.queryKey[1] === id ? before : undefined,
    }),
  survey: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'survey'],
      queryFn: () => getJson<SurveyView>(`/api/crossings/${id}/survey`),
    }),
  marks: (id: string, index: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'marks', index],
      queryFn: () => getJson<MarksView>(`/api/crossings/${id}/survey/${index}/marks`),
    }),
  near: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'near'],
      queryFn: () => getJson<SideView>(`/api/crossings/${id}/near`),
    }),
  part: (id: string, nodeId: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'part', nodeId],
      queryFn: () => getJson<PartView>(`/api/crossings/${id}/parts/${nodeId}`),
    }),
  far: (id: string, revision: number, after: number | null) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'far', revision, after],
      queryFn: () => farView(id, after),
    }),
  handling: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'handling'],
      queryFn: () => getJson<HandlingState>(`/api/crossings/${id}/handling`),
    }),
  /** Materials and the images on their channels. */
  bench: (id: string, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'bench', revision],
      queryFn: () => getJson<MaterialBench>(`/api/crossings/${id}/bench`),
      placeholderData: (before: MaterialBench | undefined, query) =>
        query?.queryKey[1] === id ? before : undefined,
    }),
  /** Rows of a ledger: of a landing, of both sides, or of two states. */
  ledger: (id: string, of: LedgerOf, revision: number, asked: LedgerAsked) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'ledger', of, revision, asked],
      queryFn: () => {
        const query = new URLSearchParams({ find: asked.find, count: String(asked.count) });
        if (asked.verdict) {
          query.set('verdict', asked.verdict);
        }
        if ('a' in of) {
          query.set('a', of.a);
          query.set('b', of.b);
        }
        const path =
          'landing' in of
            ? `/api/landings/${of.landing}/rows`
            : `/api/crossings/${id}/${'a' in of ? 'compare' : 'ledger'}`;
        return getJson<LedgerPage>(`${path}?${query}`);
      },
      // What was found before stays to be seen while more is asked for.
      placeholderData: (before: LedgerPage | undefined) => before,
    }),
  landings: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'landings'],
      queryFn: () => getJson<LandingView[]>(`/api/crossings/${id}/landings`),
    }),
  stepKinds: () =>
    queryOptions({
      queryKey: ['steps'],
      queryFn: () => getJson<StepKind[]>('/api/steps'),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  side: (id: string, ref: string, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'side', ref, revision],
      queryFn: () => getJson<SideView>(`/api/crossings/${id}/sides?ref=${encodeURIComponent(ref)}`),
    }),
  curves: (id: string, side: 'near' | 'far', clip: number, node: number, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'curves', side, clip, node, revision],
      queryFn: () =>
        getJson<PreviewCurves>(
          `/api/crossings/${id}/curves?side=${side}&clip=${clip}&node=${node}`,
        ),
    }),
  looks: (id: string, step: string, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'looks', step, revision],
      queryFn: () => getJson<LookTable>(`/api/crossings/${id}/looks/${step}`),
    }),
  tracks: (id: string, state: string, clip: number, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'tracks', state, clip, revision],
      queryFn: () =>
        getJson<PreviewTracks>(
          `/api/crossings/${id}/tracks?side=${encodeURIComponent(state)}&clip=${clip}`,
        ),
    }),
  apart: (id: string, ask: ApartAsk, revision: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'apart', ask, revision],
      queryFn: () =>
        getJson<MotionApart>(
          `/api/crossings/${id}/apart?${new URLSearchParams(
            Object.entries(ask).map(([name, value]) => [name, String(value)]),
          )}`,
        ),
    }),
  states: (id: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'states'],
      queryFn: () => getJson<NamedState[]>(`/api/crossings/${id}/states`),
    }),
  forecast: (id: string, revision: number, options: LandingOptions) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'forecast', revision, options],
      queryFn: () => sendJson<Forecast>('POST', `/api/crossings/${id}/forecast`, options),
    }),
  formats: () =>
    queryOptions({
      queryKey: ['formats'],
      queryFn: () => getJson<FormatView[]>('/api/formats'),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  /** The landing in a format as a shore asks for it. */
  landingOn: (shore: Shore, format: string) =>
    queryOptions({
      queryKey: ['shores', shore, 'landing', format],
      staleTime: Number.POSITIVE_INFINITY,
      queryFn: () =>
        getJson<LandingOptions>(
          `/api/shores/${shore.id}/landing?format=${encodeURIComponent(format)}`,
        ),
    }),
  shores: () =>
    queryOptions({ queryKey: ['shores'], queryFn: () => getJson<ShoreView[]>('/api/shores') }),
  /** Two assets held against each other, as the page's address asks. */
  pair: (asked: string) =>
    queryOptions({
      queryKey: ['crossing', 'pair', asked],
      queryFn: () => getJson<Compared>(`/api/pairs?${asked}`),
      staleTime: 60_000,
    }),
  routines: () =>
    queryOptions({ queryKey: ['routines'], queryFn: () => getJson<Routine[]>('/api/routines') }),
  batches: () =>
    queryOptions({ queryKey: ['batches'], queryFn: () => getJson<Batch[]>('/api/batches') }),
  batch: (id: string) =>
    queryOptions({
      queryKey: ['batches', id],
      queryFn: () => getJson<BatchDetail>(`/api/batches/${id}`),
      // An event tells of each asset; should it be lost, the page must not wait for ever.
      refetchInterval: (query) => (query.state.data?.batch.working ? 3000 : false),
    }),
  imageLoss: (id: string, from: string, key: string) =>
    queryOptions({
      queryKey: ['image-loss', id, from, key],
      queryFn: () =>
        getJson<ImageLossView>(`/api/crossings/${id}/textures/${key}/loss?from=${from}`),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  reflectionLoss: (id: string, revision: number, material: string) =>
    queryOptions({
      queryKey: ['crossing', id, 'scenes', 'reflection', revision, material],
      queryFn: () =>
        getJson<ReflectionLoss>(
          `/api/crossings/${id}/bench/reflection?material=${encodeURIComponent(material)}`,
        ),
    }),
  layers: () =>
    queryOptions({
      queryKey: ['layers'],
      queryFn: () => getJson<LayerRow[]>('/api/formats/layers'),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  atlas: () =>
    queryOptions({
      queryKey: ['atlas'],
      queryFn: () => getJson<Atlas>('/api/atlas'),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  jobs: () => queryOptions({ queryKey: ['jobs'], queryFn: () => getJson<Job[]>('/api/jobs') }),
};
