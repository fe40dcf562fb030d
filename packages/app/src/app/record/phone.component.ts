import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { PHONE_FAULTS, PHONE_FAULT_NAMES, type PhoneFault } from '@nettle-patch/core';
import { LiveService } from '../services/live.service';
import { PhoneService } from '../services/phone.service';

/** The deckhand's phone, which stands in for a native app: started here, it joins by itself. */
@Component({
  selector: 'np-phone',
  imports: [MatButtonModule, MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Or a native app</h3>
    <p>Any program that speaks the protocol can be recorded. The deckhand’s phone is one to try.</p>
    <p class="actions">
      <select
        aria-label="Display of the phone"
        [value]="hz()"
        (change)="hz.set(rate.value === '120' ? 120 : 60)"
        #rate
      >
        <option value="60">60 Hz</option>
        <option value="120">120 Hz</option>
      </select>
      @if (joined()) {
        <button type="button" mat-stroked-button (click)="phones.stop()">Put the phone away</button>
      } @else {
        <button type="button" mat-stroked-button (click)="phones.start({ hz: hz(), mended: mended() })">
          Start the deckhand’s phone
        </button>
      }
    </p>
    <details>
      <summary>Its faults: {{ faults.length - mended().length }} of {{ faults.length }}</summary>
      @for (fault of faults; track fault.name) {
        <mat-checkbox [checked]="!mended().includes(fault.name)" (change)="set(fault.name, $event.checked)">
          {{ fault.words }}
        </mat-checkbox>
      }
    </details>
    @if (phones.problem(); as words) {
      <p class="over" role="alert">{{ words }}</p>
    }
  `,
  styles: `
    h3 {
      font-size: 14px;
      margin-bottom: 4px;
    }
    mat-checkbox {
      display: block;
    }
    details {
      font-size: 13px;
    }
    .actions {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    select {
      font: 14px var(--text);
      padding: 6px 8px;
      border: 1px solid var(--edge);
      border-radius: 5px;
      background: var(--panel);
      color: var(--ink);
    }
  `,
})
export class PhoneComponent {
  protected readonly phones = inject(PhoneService);
  readonly #live = inject(LiveService);
  protected readonly hz = signal<60 | 120>(60);
  protected readonly faults = PHONE_FAULT_NAMES.map((name) => ({ name, words: PHONE_FAULTS[name] }));
  protected readonly mended = signal<readonly PhoneFault[]>([]);
  protected readonly joined = computed(() =>
    this.#live.state().targets.some(({ url }) => url === 'app://deckhand'),
  );

  protected set(fault: PhoneFault, isThere: boolean): void {
    this.mended.update((mended) => (isThere ? mended.filter((one) => one !== fault) : [...mended, fault]));
  }
}
