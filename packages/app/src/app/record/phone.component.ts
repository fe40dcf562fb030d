import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatExpansionModule } from '@angular/material/expansion';
import { PHONE_FAULTS, PHONE_FAULT_NAMES, type PhoneFault } from '@nettle-patch/core';
import { LiveService } from '../services/live.service';
import { PhoneService } from '../services/phone.service';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';

/** The deckhand's phone, which stands in for a native app: started here, it joins by itself. */
@Component({
  selector: 'np-phone',
  imports: [MatButtonModule, MatCheckboxModule, MatExpansionModule, ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>Any program that speaks the protocol can be recorded. The deckhand’s phone is one to try.</p>
    <p class="actions">
      <np-choice label="Display of the phone" [options]="rates" [value]="hz()" (choose)="hz.set($event)" />
      @if (joined()) {
        <button type="button" mat-stroked-button (click)="phones.stop()">Stop the phone</button>
      } @else {
        <button type="button" mat-stroked-button (click)="phones.start({ hz: hz(), mended: mended() })">
          Start the deckhand’s phone
        </button>
      }
    </p>
    <mat-expansion-panel class="mat-elevation-z0">
      <mat-expansion-panel-header>
        Its faults: {{ faults.length - mended().length }} of {{ faults.length }}
      </mat-expansion-panel-header>
      @for (fault of faults; track fault.name) {
        <mat-checkbox [checked]="!mended().includes(fault.name)" (change)="set(fault.name, $event.checked)">
          {{ fault.words }}
        </mat-checkbox>
      }
    </mat-expansion-panel>
    @if (phones.problem(); as words) {
      <p class="over" role="alert">{{ words }}</p>
    }
  `,
  styles: `
    mat-checkbox {
      display: block;
    }
    mat-expansion-panel {
      --mat-expansion-container-background-color: transparent;
      --mat-expansion-header-text-size: 13px;
      --mat-expansion-header-text-weight: 400;
      --mat-expansion-header-collapsed-state-height: 36px;
      --mat-expansion-header-expanded-state-height: 36px;
      max-width: 340px;
    }
    mat-expansion-panel-header {
      padding: 0 8px 0 0;
    }
    .actions {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    np-choice {
      --choice-width: 100px;
    }
  `,
})
export class PhoneComponent {
  protected readonly phones = inject(PhoneService);
  readonly #live = inject(LiveService);
  protected readonly rates: readonly ChoiceOption<60 | 120>[] = [
    { value: 60, words: '60 Hz' },
    { value: 120, words: '120 Hz' },
  ];
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
