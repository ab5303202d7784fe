import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Changed = Schemas['ChangedOut'];
export type Rows = Schemas['Rows'];
export type Project = Schemas['ProjectRow'];
export type Beat = Schemas['BeatRow'];
export type Reading = Schemas['Reading'];
export type Lengths = Schemas['Lengths'];
export type ShotPlanned = Schemas['ShotPlanned'];
export type Framing = Schemas['FramingRow'];
export type FoundPanels = Schemas['FoundPanels'];
export type HistoryEntry = Schemas['HistoryEntry'];
export type Shot = Schemas['ShotRow'];
/** What of a shot, or of the project, can be changed by hand. */
export type ShotFacts = Omit<Schemas['ShotEdit'], 'revision'>;
export type ProjectFacts = Omit<Schemas['ProjectEdit'], 'revision'>;
export type TextPart = Schemas['TextPartRow'];
export type Scene = Schemas['SceneRow'];
export type Thread = Schemas['ThreadRow'];
export type Reference = Schemas['ReferenceRow'];
export type Trait = Schemas['TraitRow'];
export type Bead = Schemas['BeadRow'];
export type Take = Schemas['TakeRow'];
export type Mark = Schemas['MarkRow'];
export type Stet = Schemas['StetRow'];
export type Picture = Schemas['PictureRow'];
/** Something to look at; what is left out is nothing: no number, no evidence. */
export type Finding = Schemas['Finding'] & { key: string };
export type Source = Finding['source'];
export type FindingsSince = Schemas['FindingsSince'];
export type CheckStatus = Schemas['CheckStatus'];
export type Review = Schemas['Review'];
export type Lineup = Schemas['Lineup'];
export type LineupCell = Schemas['LineupCell'];
export type TakenIn = Schemas['TakenIn'];
export type Proposal = Schemas['Proposal'];
export type Problem = Schemas['Problem'];
export type Kind = Thread['kind'];
export type ShotBrief = Schemas['ShotBrief'];
export type Phrase = Schemas['Phrase'];
export type Piece = Schemas['Piece'];
export type Profile = Schemas['Profile'];
export type LibraryItem = Schemas['LibraryItem'];
export type LibraryPart = Schemas['LibraryPart'];
export type Standing = Schemas['Standing'];
export type Job = Schemas['JobView'];
export type Queue = Schemas['Queue'];
export type Service = Schemas['ServiceRow'];
export type ServiceView = Schemas['ServiceView'];
export type ContactSheet = Schemas['ContactSheet'];
export type TakeReading = Schemas['TakeReading'];
export type Score = Schemas['Score'];
export type FaultMark = Schemas['FaultMarkRow'];
export type FaultKind = FaultMark['kind'];
export type Trial = Schemas['TrialRow'];
export type Sound = Schemas['SoundRow'];
export type SoundKind = Sound['kind'];
export type SoundTrack = Schemas['SoundTrack'];
export type SoundHeard = Schemas['SoundHeard'];
export type SoundNote = Schemas['SoundNote'];
export type Bridge = Schemas['BridgeView'];
export type ShotLines = Schemas['ShotLines'];
export type LineView = Schemas['LineView'];
/** What of a sound can be changed by hand. */
export type SoundFacts = Omit<Schemas['SoundEdit'], 'revision'>;
export type Ledger = Schemas['Ledger'];
export type Offer = Schemas['Offer'];
export type OrderIn = Schemas['OrderIn'];
export type Delivery = Schemas['DeliveryView'];
export type DeliveryKind = Delivery['kind'];
export type DeliveryOptions = Required<Schemas['DeliveryOptions']>;
export type Outgoing = Schemas['Outgoing'];
export type BookView = Schemas['BookView'];
export type BookNote = Schemas['BookNote'];
export type BookFacts = Required<Schemas['BookRow']>;
export type Opening = Schemas['Opening'];
export type PlacedWords = Schemas['PlacedWords'];
export type ReadAlong = Schemas['ReadAlong'];
export type Join = Shot['join'];
export type ShowingCard = Schemas['ShowingCard'];
export type Shown = Schemas['Shown'];
export type FrozenShot = Schemas['FrozenShot'];
export type NoteView = Schemas['NoteView'];
export type SpotStatus = Schemas['SpotStatus'];

export const api = createClient<paths>({ baseUrl: '/' });

let deed: string | null = null;
let unknown: () => void = () => undefined;
const ASKS_FOR_SECRETS = /\/api\/(me\/(sign-in|password|joined|invited|second(\/off)?)|shown\/open)$/;
api.use({
  onRequest({ request }) {
    if (deed) request.headers.set('Idempotency-Key', deed);
  },
  onResponse({ request, response }) {
    if (response.status === 401 && !ASKS_FOR_SECRETS.test(new URL(request.url).pathname)) unknown();
  },
});

/** Call somebody when an answer says that nobody is signed in (any more). */
export function whenUnknown(call: () => void) {
  unknown = call;
}

/** Make a request under a name: sent again under the same name, it is not done again. The request is begun before this returns. */
export function named<T>(name: string, make: () => Promise<T>): Promise<T> {
  deed = name;
  try {
    return make();
  } finally {
    deed = null;
  }
}

/** An answer that is a problem (RFC 9457); the message is for the user. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const NO_ANSWER: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'Juxtaform does not answer. Is bin/start still running? Nothing was changed.',
};

/** The data of an answer, or its problem thrown. */
export async function ok<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let got;
  try {
    got = await answer;
  } catch {
    throw new ApiError(NO_ANSWER);
  }
  if (!got.response.ok) throw new ApiError(asProblem(got.error, got.response.status));
  return got.data as T;
}

/** Send a file to a route that answers with JSON; a problem is thrown. */
export async function sendFile<T>(path: string, file: File, fields: Record<string, string> = {}): Promise<T> {
  const form = new FormData();
  form.append('file', file, file.name);
  for (const [key, value] of Object.entries(fields)) form.append(key, value);
  return (await posted(path, form)) as T;
}

/** Send one picture file; a refusal comes back as data, not as an error. */
export async function sendPicture(projectId: string, file: File, name: string): Promise<TakenIn> {
  const form = new FormData();
  form.append('file', file, 'picture');
  form.append('name', name);
  return (await posted(`/api/projects/${projectId}/pictures`, form)) as TakenIn;
}

async function posted(path: string, form: FormData): Promise<unknown> {
  const response = await fetch(path, { method: 'POST', body: form }).catch(() => {
    throw new ApiError(NO_ANSWER);
  });
  const body: unknown = await response.json().catch(() => undefined);
  if (response.status === 401) unknown();
  if (!response.ok) throw new ApiError(asProblem(body, response.status));
  return body;
}

export const thumb = (sha: string, side = 240) => `/api/pictures/${sha}/thumb?side=${side}`;
export const whole = (sha: string) => `/api/pictures/${sha}`;

export interface BoxPx {
  x: number;
  y: number;
  w: number;
  h: number;
}

export function crop(sha: string, box: BoxPx, side: number, light?: Schemas['SceneLight'] | null): string {
  const query = new URLSearchParams({ side: String(side) });
  for (const key of ['x', 'y', 'w', 'h'] as const) query.set(key, box[key].toFixed(1));
  if (light) query.set('light', [...light.gain, light.saturation, light.contrast].map((v) => Math.max(0.01, v ?? 1).toFixed(4)).join(','));
  return `/api/pictures/${sha}/crop?${query}`;
}

function asProblem(body: unknown, status: number): Problem {
  if (body && typeof body === 'object' && 'detail' in body) return body as Problem;
  return { type: 'about:blank', title: 'Error', status, detail: `Something went wrong (${status}). Try again; nothing was changed.` };
}
