import type { AppState } from '../store/store.ts';

/** What a newer application must not interrupt, as words that follow "while"; null where nothing is under way. */
export function inTheMiddleOf({ board, firmware, procedure, rehearsal }: AppState): string | null {
  if (board.write.kind === 'writing' || board.planWrite.kind === 'writing')
    return 'the board is being written to';
  if (!['idle', 'runs', 'failed'].includes(firmware.run.kind)) return 'a firmware is on its way to the board';
  if (firmware.back.kind === 'writing') return 'settings are being brought back';
  if (firmware.controllers.kind === 'writing') return 'a motor controller is being written to';
  if (['running', 'away'].includes(procedure.newest?.state ?? ''))
    return 'the board is being taught something';
  return rehearsal.run.kind === 'flying' ? 'a flight is being rehearsed' : null;
}
