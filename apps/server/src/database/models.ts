import { LoginAttempt, Organisation, Session, Site, User } from './models/firm.js';
import { Control, ControlLink, ControlPlan, Equipment, FittedDevice, GaugeRow } from './models/controls.js';
import { Visit, VisitControl } from './models/visits.js';
import {
  DueReasonRow,
  GaugeCheck,
  GaugeSpan,
  Job,
  JobEventRow,
  JobFinding,
  JobFlag,
  JobGauge,
  JobResult,
} from './models/jobs.js';
import {
  CalendarRow,
  ControlPhotoRow,
  Photo,
  Share,
  Trace,
  TraceBlock,
  TraceCorrection,
} from './models/files.js';

export * from './models/firm.js';
export * from './models/controls.js';
export * from './models/visits.js';
export * from './models/jobs.js';
export * from './models/files.js';

/** Every table. */
export const MODELS = [
  DueReasonRow,
  JobFinding,
  Trace,
  TraceBlock,
  TraceCorrection,
  GaugeCheck,
  GaugeSpan,
  JobFlag,
  JobGauge,
  Organisation,
  Site,
  User,
  Session,
  LoginAttempt,
  Equipment,
  Control,
  ControlPlan,
  ControlLink,
  FittedDevice,
  GaugeRow,
  Visit,
  VisitControl,
  Job,
  JobEventRow,
  JobResult,
  Photo,
  ControlPhotoRow,
  Share,
  CalendarRow,
] as const;
