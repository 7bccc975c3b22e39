import Button from '@mui/material/Button';
import { doubt, doubtZero, typeReading, type Family } from '@firm-needle/core/family';
import { asRead, rangeText, shownStep, type Gauge } from '@firm-needle/core/gauge';
import type { JobView } from '@firm-needle/core/procedure';
import { decimalsFor, figure, symbolOf, type Typed } from '@firm-needle/core/quantity';
import type { Refusal } from '@firm-needle/core/result';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { BackspaceIcon } from './icons.tsx';
import { inLayer, onControl, typing } from './keys.ts';

export interface KeypadProps {
  readonly title: string;
  /** What is to be done, as the step says it: it stays in view while typing. */
  readonly say?: string | undefined;
  readonly gauge: Gauge;
  /** What it is read from, where that is not one of our gauges. */
  readonly from?: string;
  readonly family: Family;
  readonly job: JobView;
  /** The setting read, for plausibility; absent for a zero. */
  readonly setting?: string;
  /** The place whose zero is typed, for plausibility. */
  readonly zeroOf?: string;
  readonly expected?: string | undefined;
  readonly initial?: string;
  readonly keepLabel?: string;
  /** Beside the figure: what goes with it. */
  readonly beside?: ReactNode;
  readonly onKeep: (typed: Typed, early: boolean) => void;
  readonly onOffScale?: (side: 'above' | 'below') => void;
  readonly onCancel: () => void;
  readonly withEarly?: boolean;
}

const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '.', '0'] as const;

/** The big keypad: unit and resolution fixed by the gauge; a reading that does not fit is questioned, never refused for that. */
export function Keypad(props: KeypadProps) {
  const { title, gauge, family, job, setting, zeroOf, expected, onKeep, onCancel } = props;
  const [text, setText] = useState(props.initial ?? '');
  const [refusal, setRefusal] = useState<Refusal>();
  const [asked, setAsked] = useState<{ message: string; instead?: string }>();
  const past = setting ? job.readings(setting).at(-1)?.value : undefined;
  const type = (key: string): void => {
    setText((t) => (key === '.' && t.includes('.') ? t : t + key));
    setRefusal(undefined);
    setAsked(undefined);
  };
  const erase = (): void => {
    setText((t) => t.slice(0, -1));
    setRefusal(undefined);
    setAsked(undefined);
  };
  const keep = (value: string, sure = false, early = false): void => {
    const typed = typeReading(gauge, value);
    if (!typed.ok) {
      setRefusal(typed.refusal);
      return;
    }
    const doubtful = sure
      ? undefined
      : setting
        ? doubt(family, job, setting, typed.value)
        : zeroOf === undefined
          ? undefined
          : doubtZero(job, zeroOf, typed.value);
    if (doubtful) {
      setAsked(doubtful);
      return;
    }
    onKeep(typed.value, early);
  };
  const mark = (part: number): void => {
    const n = Number(text || '0');
    setText(String(Math.trunc(n) + gauge.division * part));
  };
  const pad = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    // Digits can be typed at once, unless somebody is writing elsewhere.
    const at = document.activeElement;
    if (at === null || at === document.body || pad.current?.closest('main')?.contains(at))
      pad.current?.focus({ preventScroll: true });
  }, []);
  useLayoutEffect(() => {
    const pressed = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || typing(e) || inLayer(e.target)) return;
      if (/^[0-9]$/.test(e.key)) type(e.key);
      else if (e.key === '.' || e.key === ',') type('.');
      else if (e.key === '-') setText((t) => (t.startsWith('-') ? t.slice(1) : `-${t}`));
      else if (e.key === 'Backspace') erase();
      else if (e.key === 'Escape') onCancel();
      else if (e.key === 'Enter') {
        // Enter belongs to the button that has the focus, and to a held key only once.
        if (e.repeat || onControl(e.target)) return;
        if (text !== '') keep(text, asked !== undefined);
      } else return;
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', pressed);
    return () => removeEventListener('keydown', pressed);
  });
  /** A zero, or a gauge that reads below it. */
  const signed = gauge.lower < 0 || (setting === undefined && props.from === undefined);
  const analogue = gauge.kind !== 'digital' && gauge.readable < 1;
  return (
    <div
      ref={pad}
      className="keypad"
      role="group"
      aria-label={title}
      tabIndex={-1}
      // A key of the pad that was pressed with a finger must not keep the focus: the next Enter would press it again.
      onMouseDown={(e) => e.target !== e.currentTarget && e.preventDefault()}
    >
      <div className="keypad-head">
        <h2>{title}</h2>
        <span className="soft">
          {props.from ?? `gauge ${gauge.label}`}, {rangeText(gauge)}
        </span>
      </div>
      {props.say && <p className="keypad-say move-say">{props.say}</p>}
      <div className="keypad-read">
        <output className="figure keypad-value" aria-live="polite">
          {text.replace('-', '−') || '–'}
        </output>
        <span className="soft figure">{symbolOf(gauge.unit)}</span>
        {props.beside}
        <span className="keypad-past soft">
          {past !== undefined && <>last {asShown(gauge, past)}</>}
          {expected && (
            <>
              <br />
              expected {expected}
            </>
          )}
        </span>
      </div>
      {refusal && (
        <p className="caution" role="alert">
          <strong>{refusal.message}</strong> {refusal.bound && `Its scale is ${refusal.bound}.`}{' '}
          {refusal.remedy}
        </p>
      )}
      {asked && (
        <p className="caution" role="alert">
          <strong>{asked.message}</strong> {asked.instead && `Did you mean ${asked.instead}?`}
        </p>
      )}
      <div className="keypad-keys">
        {KEYS.map((k) => (
          <Button key={k} onClick={() => type(k)} aria-label={k === '.' ? 'point' : k}>
            {k}
          </Button>
        ))}
        <Button onClick={erase} aria-label="erase">
          <BackspaceIcon />
        </Button>
        {analogue && (
          <>
            <Button className="small" onClick={() => mark(1 / 2)}>
              ½ mark
            </Button>
            <Button className="small" onClick={() => mark(1 / 4)}>
              ¼ mark
            </Button>
          </>
        )}
        {signed && (
          <Button
            className="small"
            onClick={() => setText((t) => (t.startsWith('-') ? t.slice(1) : `-${t}`))}
          >
            + / −
          </Button>
        )}
      </div>
      <div className="keypad-acts">
        <Button
          className="primary"
          variant="contained"
          disabled={text === ''}
          onClick={() => keep(text, asked !== undefined)}
        >
          {asked ? `Keep ${text} as read` : (props.keepLabel ?? 'Keep')}
        </Button>
        {asked?.instead && (
          <Button onClick={() => keep(asked.instead ?? text, true)}>Make it {asked.instead}</Button>
        )}
        {props.withEarly && (
          <Button disabled={text === ''} onClick={() => keep(text, true, true)}>
            Still moving
          </Button>
        )}
        {props.onOffScale && <Button onClick={() => props.onOffScale?.('above')}>Off scale</Button>}
        <Button onClick={onCancel}>Back</Button>
      </div>
    </div>
  );
}

/** A canonical value as this gauge would show it, with decimals. */
export const asShown = (gauge: Gauge, pa: number): string =>
  figure(asRead(gauge, pa), decimalsFor(shownStep(gauge)));
