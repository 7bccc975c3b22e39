import { Transform } from 'class-transformer';
import { ValidateBy } from 'class-validator';

/** Whether a name is a time zone that can be told time in. */
export function isZone(name: unknown): name is string {
  if (typeof name !== 'string' || name.length > 60) return false;
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** A time zone by its name; empty is that of the server. */
export const Zone = (): PropertyDecorator => (target, key) => {
  Transform(({ value }: { value: unknown }) => (value === '' ? undefined : value))(target, key);
  ValidateBy({
    name: 'zone',
    validator: {
      validate: (value) => value === undefined || isZone(value),
      defaultMessage: () => 'is the name of no time zone',
    },
  })(target, key);
};

/** Days and times as paper says them, in a time zone. */
export function saidIn(zone: string | undefined): { day(iso: string): string; time(iso: string): string } {
  const timeZone = isZone(zone) ? zone : undefined;
  const inZone = timeZone === undefined ? {} : { timeZone };
  const date = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    ...inZone,
  });
  const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', ...inZone });
  return {
    // A calendar day is no moment: it is the same in every zone.
    day: (iso) => (iso.length === 10 ? dayAlone(iso) : date.format(new Date(iso))),
    time: (iso) => {
      const at = new Date(iso);
      return Number.isNaN(at.getTime()) ? iso : `${date.format(at)}, ${clock.format(at)}`;
    },
  };
}

const dayAlone = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  }).format(new Date(`${iso}T00:00:00Z`));
