import { anatomyOf } from '../explanation/anatomy';
import { becauseOf } from '../detectors/because';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { RefusedRecordingError } from '../format/errors';
import { readRecording } from '../recording/read';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';

/**
 * Reads bytes that may be damaged and analyses what came of them.
 * @returns "refused", "told" when a loss was stated, or "whole" when nothing was
 * @throws whatever a reader must never throw
 */
export function readDamaged(bytes: Uint8Array): 'refused' | 'told' | 'whole' {
  try {
    const { recording, notices } = readRecording([bytes]);
    for (const sting of findStings(recording, DEFAULT_THRESHOLDS).slice(0, 3)) {
      becauseOf(recording, anatomyOf(recording, sting));
    }
    functionTable(recording, WIDE_LENS);
    return notices.length > 0 ? 'told' : 'whole';
  } catch (error) {
    if (error instanceof RefusedRecordingError) return 'refused';
    throw error;
  }
}
