import type { components } from './schema';

type Schemas = components['schemas'];
export type Crossing = Schemas['Crossing'];
export type CargoView = Schemas['CargoView'];
export type FileView = Schemas['FileView'];
export type PartView = Schemas['PartView'];
export type SideView = Schemas['SideView'];
export type NodeView = Schemas['NodeView'];
export type MaterialView = Schemas['MaterialView'];
export type TextureView = Schemas['TextureView'];
export type SurveyView = Schemas['SurveyView'];
export type FindingView = Schemas['FindingView'];
export type MarksView = Schemas['MarksView'];
export type MeshFacts = Schemas['MeshFacts'];
export type Offer = Schemas['Offer'];
export type HandlingState = Schemas['HandlingState'];
export type StepKind = Schemas['StepKindView'];
export type StepField = Schemas['Field'];
export type Step = Schemas['Step'];
export type PartRef = Schemas['PartRef'];
export type FarChanges = Schemas['FarChanges'];
export type LandingView = Schemas['LandingView'];
export type LedgerPage = Schemas['LedgerPage'];
export type LandingOptions = Schemas['LandingOptions'];
export type FormatView = Schemas['FormatView'];
export type LedgerRow = Schemas['LedgerRow'];
export type PreviewCurves = Schemas['PreviewCurves'];
export type PreviewTracks = Schemas['PreviewTracks'];
export type MotionApart = Schemas['MotionApart'];
export type LookTable = Schemas['LookTable'];
export type LookRow = Schemas['RowView'];
export type MaterialBench = Schemas['MaterialBench'];
export type BenchColumn = Schemas['BenchColumn'];
export type BenchRow = Schemas['BenchRow'];
export type BenchSlot = Schemas['BenchSlot'];
export type LooseImage = Schemas['LooseImage'];
export type MaterialCopies = Schemas['Copied'];
export type ReflectionLoss = Schemas['ReflectionLoss'];
export type BenchPut = Schemas['BenchPut'];
export type Job = Schemas['Job'];
export type Storage = Schemas['Storage'];
export type Shore = Schemas['Shore'];
export type ShoreView = Schemas['ShoreView'];
export type Compared = Schemas['Compared'];
export type Routine = Schemas['RoutineView'];
export type Batch = Schemas['BatchView'];
export type BatchDetail = Schemas['BatchDetail'];
export type BatchAsset = Schemas['AssetView'];
export type CacheCost = Schemas['CacheCost'];
export type Forecast = Schemas['Forecast'];
export type ForecastItem = Schemas['Item'];
export type Atlas = Schemas['Atlas'];
export type ImageLossView = Schemas['ImageLossView'];
export type LayerRow = Schemas['LayerRow'];
export type NamedState = Schemas['NamedState'];
export type PickedElement = Schemas['PickedElement'];
export type Reading = Schemas['Reading'];

/** A problem document from the server: `message` is a sentence for the user. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

/** Makes an error of an answer that is not 2xx. */
export async function problemOf(response: Response): Promise<ApiError> {
  const text = await response.text();
  try {
    const body = JSON.parse(text) as { detail?: string; title?: string; message?: string };
    return new ApiError(body.detail ?? body.message ?? body.title ?? text, response.status);
  } catch {
    return new ApiError(text || `The server answered ${response.status}.`, response.status);
  }
}

async function send(method: string, path: string, body?: unknown): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: body === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new ApiError('The server does not answer. Check that it is running, then try again.', 0);
  }
  if (!response.ok) {
    throw await problemOf(response);
  }
  return response;
}

/** Fetches JSON. */
export async function getJson<T>(path: string): Promise<T> {
  return (await send('GET', path)).json() as Promise<T>;
}

/** Fetches bytes. */
export async function getBytes(path: string): Promise<ArrayBuffer> {
  return (await send('GET', path)).arrayBuffer();
}

/** Sends JSON; an empty answer gives `undefined`. */
export async function sendJson<T>(method: string, path: string, body?: unknown): Promise<T> {
  const text = await (await send(method, path, body)).text();
  return (text ? JSON.parse(text) : undefined) as T;
}
