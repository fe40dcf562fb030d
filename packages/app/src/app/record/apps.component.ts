import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  signal,
  Injector,
} from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { AppsService } from '../services/apps.service';
import { IconComponent } from '../shared/icon.component';

/** The apps that can be opened to be recorded; others are added or taken instead, by what answers here or by address. */
@Component({
  selector: 'np-apps',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './apps.component.html',
  styleUrl: './apps.component.scss',
})
export class AppsComponent {
  protected readonly apps = inject(AppsService);
  readonly #element = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly #injector = inject(Injector);
  /** Whether a page of an app is open: to open another is then not the next thing to do. */
  readonly hasPages = input(false);
  protected readonly address = new FormControl('', { nonNullable: true });
  /** Origin of the server of the app whose address is changed. */
  protected readonly replaced = signal<string | undefined>(undefined);
  readonly #wantsField = signal(false);
  protected readonly isTyping = computed(() => this.#wantsField() || this.apps.served().length === 0);
  protected readonly label = computed(() => {
    if (this.replaced() !== undefined) return 'New address';
    return this.apps.served().length === 0 ? 'Address of your app' : 'Another app';
  });

  constructor() {
    this.apps.problem.set('');
    void this.apps.look();
  }

  /** Shows the field. @param replaced origin of the app in whose place the typed one is taken; none adds it */
  protected type(replaced?: string): void {
    this.replaced.set(replaced);
    this.address.reset(replaced ?? '');
    this.#wantsField.set(true);
    afterNextRender(() => this.#element.nativeElement.querySelector('input')?.select(), {
      injector: this.#injector,
    });
  }

  protected stopTyping(): void {
    this.#wantsField.set(false);
    this.replaced.set(undefined);
    this.address.reset();
    this.apps.problem.set('');
  }

  /** What the server would not have is said at the field, until something else stands in it. */
  protected async take(address: string): Promise<void> {
    const replaced = this.replaced();
    if (address === replaced) this.stopTyping();
    else if (await this.apps.add(address)) {
      if (replaced !== undefined) await this.apps.remove(replaced);
      this.stopTyping();
    } else {
      this.address.setErrors({ refused: true });
      this.address.markAsTouched();
    }
  }
}
