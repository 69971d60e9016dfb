import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export const api = createClient<paths>();

export type Schemas = components['schemas'];
export type Jar = Schemas['Jar'];
export type ShelfState = Schemas['ShelfState'];
export type RecipeQuestion = Schemas['RecipeQuestion'];
export type RecipeLine = Schemas['RecipeLine'];
export type BuildState = Schemas['BuildState'];
export type Plan = Schemas['Plan'];
export type Step = Schemas['Step'];
export type Finding = Schemas['Finding'];
export type Edit = Schemas['Edit'];
export type Layer = Schemas['Layer'];
export type Pattern = Schemas['Pattern'];
export type Family = Schemas['Family'];
export type Home = Schemas['Home'];
export type Restored = Schemas['Restored'];
export type Start = Schemas['Start'];
export type View = Schemas['View'];
export type WhyText = Schemas['Why'];
export type LengthAnswer = Schemas['LengthAnswer'];
export type SizeLine = Schemas['SizeLine'];
export type DimensionEdit = Schemas['DimensionEdit'];
export type Fact = Schemas['Fact'];
export type KitReport = Schemas['KitReport'];
export type Stocked = Schemas['Stocked'];
export type Cable = Schemas['Cable'];
export type CableLine = Schemas['CableLine'];
export type Photo = Schemas['Photo'];
export type PhotoMarks = Schemas['PhotoMarks'];
export type PhotoAnswer = Schemas['PhotoAnswer'];
export type Part = Schemas['Part'];
export type Printer = Schemas['Printer'];
export type Workshop = Schemas['Workshop'];
export type StockAnswer = Schemas['StockAnswer'];
export type RopeAnswer = Schemas['RopeAnswer'];
export type DrillAnswer = Schemas['DrillAnswer'];
export type Span = Schemas['Span'];
export type Build = Schemas['Build'];
export type Body = Schemas['Body'];
export type Wheel = Schemas['Wheel'];
export type Grip = Schemas['Grip'];
export type Link = Schemas['Link'];
export type GearLine = Schemas['GearLine'];
export type RunLine = Schemas['RunLine'];
export type Turning = Schemas['Turning'];
export type Kit = Schemas['Kit'];
export type KitPart = Schemas['KitPart'];
export type Evenings = Schemas['Evenings'];
export type EveningLine = Schemas['EveningLine'];
export type Timer = Schemas['Timer'];
export type NewEntry = Schemas['NewEntry'];
export type OrderEdit = Schemas['OrderEdit'];
export type WhatIf = Schemas['WhatIf'];
export type Diary = Schemas['Diary'];
type Problem = Schemas['Problem'] & { current?: BuildState };

/** What the server refused, with the field, the reason and the remedy. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  /** Ways round what a rule of the trade stands against. */
  get mends() {
    return this.problem.mends ?? [];
  }
  get words(): string {
    return this.problem.remedy ? `${this.problem.detail}. To mend it: ${this.problem.remedy}.` : this.problem.detail;
  }
}

/** Unwraps an answer; a problem, or no answer at all, becomes a Refusal. */
export async function ask<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await request;
  } catch {
    throw new Refusal({
      type: 'about:blank',
      title: 'No answer',
      status: 0,
      detail: 'Cinder Path does not answer; it may have been stopped',
      remedy: 'start it again; what you typed stays here meanwhile',
    });
  }
  if (answer.error !== undefined) {
    throw new Refusal(answer.error as Problem);
  }
  return answer.data as T;
}

/** How long a change is sent again while nobody knows whether it was kept, ms. */
const patience = 20_000;

/**
 * Sends what may be sent again: a change under a key or a revision, a log entry under its
 * key. While the program or its database is away it is sent again and again, so that what
 * is told in the end is true.
 */
export async function insist<T>(send: () => Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  for (let wait = 300, left = patience; ; left -= wait, wait *= 1.6) {
    try {
      return await ask(send());
    } catch (error) {
      const away = error instanceof Refusal && (error.problem.status === 0 || error.problem.status === 503);
      if (!away || left < wait) {
        throw error;
      }
      await new Promise((again) => setTimeout(again, wait));
    }
  }
}

/** The headers of a change: the revision that was seen, and a key that it keeps when sent again. */
export const under = (revision: number) => ({
  'If-Match': `"${revision}"`,
  'Idempotency-Key': crypto.randomUUID(),
});

export const words = (error: unknown): string =>
  error instanceof Refusal ? error.words : error ? 'Something went wrong here; reload the page.' : '';
