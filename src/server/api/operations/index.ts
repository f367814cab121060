import type { Operation } from '../operation';
import { connections } from './connections';
import { leads } from './leads';
import { links } from './links';
import { outcomes } from './outcomes';
import { releases } from './releases';
import { reportBacks } from './report-backs';
import { strands } from './strands';

export const operations: Operation[] = [
  ...strands,
  ...leads,
  ...links,
  ...outcomes,
  ...reportBacks,
  ...releases,
  ...connections,
];
