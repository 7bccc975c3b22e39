// Shared by the tests of practice: a test as a supervisor set it.
import type { PracticeTest } from '@firm-needle/contract';

export const TEST: PracticeTest = {
  id: 't1',
  family: 'well-switch',
  variant: 'well switch',
  level: 4,
  sealed: 'ab',
  until: '2030-02-01',
  by: 'A Supervisor',
  note: null,
  mine: null,
  ended: null,
};
