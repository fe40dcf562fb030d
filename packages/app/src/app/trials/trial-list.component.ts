import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { agreementWords, pairWords } from '@nettle-patch/core';
import type { StoredTrial } from '../../store/database';
import { TrialShelfService } from '../services/trial-shelf.service';
import { formatDate } from '../shared/format';
import { IconComponent } from '../shared/icon.component';

/** What a trial came to when it ran last, in one sentence; empty where it has not. */
function outcomeWords({ runs }: StoredTrial): string {
  const last = runs.at(-1);
  if (last === undefined) return '';
  const { alternatives, pairs } = last.result;
  const told = pairs.filter(({ verdict }) => verdict === 'faster' || verdict === 'slower');
  const [most] = [...told].sort((a, b) => Math.abs(b.more.share) - Math.abs(a.more.share));
  const names = alternatives.map(({ name }) => name);
  return most === undefined ? agreementWords(alternatives) : pairWords(names, most);
}

/** Trials that are kept, each with what it came to. */
@Component({
  selector: 'np-trial-list',
  imports: [MatButtonModule, RouterLink, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (one of trials(); track one.id) {
        <li>
          <a [routerLink]="['/trials', one.id]">{{ one.trial.name }}</a>
          <span class="soft">{{ one.trial.alternatives.length }} alternatives</span>
          <span class="outcome">{{ words(one) || 'not run yet' }}</span>
          <span class="soft">{{ date(one.changedAt) }}</span>
          <button
            type="button"
            mat-icon-button
            [attr.aria-label]="'Delete the trial ' + one.trial.name"
            title="Delete"
            (click)="shelf.remove(one.id)"
          >
            <np-icon name="close" />
          </button>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(140px, 1fr) 110px minmax(0, 2.2fr) 150px 40px;
      align-items: center;
      gap: 14px;
      padding: 6px 0;
      border-bottom: 1px solid var(--line);
    }
    a {
      font-weight: 700;
    }
    span {
      font-size: 13px;
    }
  `,
})
export class TrialListComponent {
  readonly trials = input.required<readonly StoredTrial[]>();
  protected readonly shelf = inject(TrialShelfService);
  protected readonly date = formatDate;
  protected readonly words = outcomeWords;
}
