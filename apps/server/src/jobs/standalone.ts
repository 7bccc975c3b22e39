import {
  Control,
  ControlLink,
  ControlPlan,
  DueReasonRow,
  FittedDevice,
  GaugeCheck,
  GaugeRow,
  GaugeSpan,
  Job,
  JobEventRow,
  JobFinding,
  JobFlag,
  JobGauge,
  JobResult,
  Organisation,
} from '../database/models.js';
import { DueService } from '../due/due.service.js';
import { LinksService } from '../controls/links.service.js';
import { EvidenceService } from './evidence.service.js';
import type { Sequelize } from 'sequelize';
import { JudgeService } from './judge.service.js';
import { ResultsService } from './results.service.js';

/** What is due and why, for commands that run without the server. */
export const standaloneDue = (): DueService =>
  new DueService(Control, ControlPlan, DueReasonRow, FittedDevice, GaugeRow, JobFlag, JobResult);

/** The fold of jobs for commands that run without the server. */
export const standaloneResults = (db: Sequelize): ResultsService =>
  new ResultsService(
    Job,
    JobEventRow,
    JobResult,
    Control,
    FittedDevice,
    ControlPlan,
    JobFinding,
    standaloneDue(),
    new EvidenceService(Control, GaugeRow, GaugeCheck, GaugeSpan, JobFlag, JobGauge, Job),
    new JudgeService(
      Control,
      GaugeRow,
      new LinksService(Control, ControlLink, ControlPlan, JobResult, db),
      Organisation,
    ),
    db,
  );
