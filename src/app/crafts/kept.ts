import { nanoid } from '@reduxjs/toolkit';
import { rows } from '../store/database.ts';
import { CraftRecords } from './records.ts';

/** What this browser keeps of craft and of what was replaced. */
export const records = new CraftRecords(
  rows,
  () => new Date().toISOString(),
  () => nanoid(10),
);
