import {
  Control,
  FittedDevice,
  GaugeCheck,
  GaugeRow,
  GaugeSpan,
  Job,
  JobEventRow,
  JobFlag,
  JobResult,
} from '../database/models.js';
import { EvidenceService } from './evidence.service.js';
import { ResultsService } from './results.service.js';

/** The fold of jobs for commands that run without the server. */
export const standaloneResults = (): ResultsService =>
  new ResultsService(
    Job,
    JobEventRow,
    JobResult,
    Control,
    FittedDevice,
    new EvidenceService(Control, GaugeRow, GaugeCheck, GaugeSpan, JobFlag),
  );
