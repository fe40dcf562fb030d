import { InputModalityDetector, LiveAnnouncer } from '@angular/cdk/a11y';
import { effect, inject, untracked, type Signal } from '@angular/core';
import { feltAndBudgetText, secondsText, type TimeRange } from '@nettle-patch/core';
import type { ItemDetails } from '../../workers/analysis/item-details-types';
import type { ListedSting } from '../../workers/analysis/analysis-results';
import { atRest } from '../shared/at-rest';
import { cardWords } from '../shared/words';

/** Keys that are held down move the window many times a second: it is told where it comes to rest. */
const AT_REST_MS = 400;

/** What the Timeline shows, each undefined where there is none. */
export interface AnnouncedTimeline {
  readonly details: Signal<ItemDetails | undefined>;
  readonly sting: Signal<ListedSting | undefined>;
  readonly shown: Signal<TimeRange>;
}

/** Tells what changes on the canvas by a key: what is selected, and what is in view. To be called where `inject` may be. */
export function announceTimeline({ details, sting, shown }: AnnouncedTimeline): void {
  const announcer = inject(LiveAnnouncer);
  const modality = inject(InputModalityDetector);
  const tellChanges = <Value>(
    value: Signal<Value>,
    wordsOf: (value: NonNullable<Value>) => string,
    which: 'each' | 'from the second on' = 'each',
  ) => {
    let before = untracked(value);
    effect(() => {
      const now = value();
      const isTold = now !== before && (which === 'each' || before !== undefined);
      before = now;
      if (isTold && now != null && modality.mostRecentModality === 'keyboard')
        void announcer.announce(wordsOf(now));
    });
  };
  tellChanges(details, cardWords);
  tellChanges(sting, (one) => `${one.label}, ${feltAndBudgetText(one)}`, 'from the second on');
  tellChanges(
    atRest(shown, AT_REST_MS),
    ({ startMs, endMs }) => `In view: ${secondsText(startMs)} to ${secondsText(endMs)}`,
    'from the second on',
  );
}
