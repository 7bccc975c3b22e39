import {
  Control,
  ControlLink,
  ControlPlan,
  FittedDevice,
  GaugeCheck,
  GaugeRow,
  GaugeSpan,
  Job,
  JobEventRow,
  JobFlag,
  JobGauge,
  JobResult,
} from '../database/models.js';
import { LinksService } from '../controls/links.service.js';
import { EvidenceService } from './evidence.service.js';
import type { Sequelize } from 'sequelize';
import { JudgeService } from './judge.service.js';
import { ResultsService } from './results.service.js';

/** The fold of jobs for commands that run without the server. */
export const standaloneResults = (db: Sequelize): ResultsService =>
  new ResultsService(
    Job,
    JobEventRow,
    JobResult,
    Control,
    FittedDevice,
    ControlPlan,
    new EvidenceService(Control, GaugeRow, GaugeCheck, GaugeSpan, JobFlag, JobGauge),
    new JudgeService(Control, GaugeRow, new LinksService(Control, ControlLink, ControlPlan, JobResult, db)),
    db,
  );
