import type { NextFunction, Request, Response } from 'express';
import { Problem } from './problem.js';

/** No body of ours comes near these; what does is refused before anything is made of it. */
const MOST_DEPTH = 24;
const MOST_KEYS = 300;
const MOST_VALUES = 150_000;

/** What about a parsed body is out of all bounds; undefined where nothing is. Looked at without recursion. */
export function outOfBounds(body: unknown): string | undefined {
  const open: { value: unknown; depth: number }[] = [{ value: body, depth: 1 }];
  let values = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth } = next;
    if (++values > MOST_VALUES) return `It holds more than ${MOST_VALUES} values.`;
    if (typeof value !== 'object' || value === null) continue;
    if (depth > MOST_DEPTH) return `It is nested more than ${MOST_DEPTH} deep.`;
    const inner = Array.isArray(value) ? (value as unknown[]) : Object.values(value);
    if (!Array.isArray(value) && inner.length > MOST_KEYS)
      return `An object in it has more than ${MOST_KEYS} fields.`;
    for (const v of inner) open.push({ value: v, depth: depth + 1 });
  }
  return undefined;
}

/** Refuses such bodies before any of them is validated. */
export function boundBodies(request: Request, _: Response, next: NextFunction): void {
  const wrong = request.is('json') ? outOfBounds(request.body) : undefined;
  next(
    wrong === undefined ? undefined : new Problem(422, 'out-of-bounds', `The request is refused. ${wrong}`),
  );
}
