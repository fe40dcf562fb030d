import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { SeveralRecordings } from '../../workers/analysis/queries/several-queries';
import type { ReportForm } from '../../workers/analysis/report-form';
import { Comparing } from './comparing';

/** Three recordings or more side by side. */
@Injectable({ providedIn: 'root' })
export class SeveralService extends Comparing<SeveralRecordings> {
  compare(ids: readonly string[]): Promise<void> {
    return this.begin(({ remote }, onProgress, settings) => remote.compareSeveral(ids, onProgress, settings));
  }

  report(form: ReportForm): Observable<string> {
    return this.askThread('severalReport', form);
  }
}
