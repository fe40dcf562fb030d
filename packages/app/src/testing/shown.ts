import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import type { HarnessLoader } from '@angular/cdk/testing';
import type { Provider, Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';

/** A component on a page of its own, as a person meets it. */
export interface Shown<Component> {
  readonly fixture: ComponentFixture<Component>;
  readonly component: Component;
  readonly element: HTMLElement;
  readonly loader: HarnessLoader;
  /** Changes what it is given, and waits until it has taken that in. */
  set(inputs: Readonly<Record<string, unknown>>): Promise<void>;
  /** Texts of all elements that a selector finds, with single spaces. */
  texts(selector: string): string[];
}

// jsdom lays nothing out, so there is nothing to scroll.
Element.prototype.scrollIntoView ??= () => undefined;

/**
 * Shows a component.
 * @param inputs what it is given, by name
 * @param providers services in place of those of the app
 */
export async function shown<Component>(
  type: Type<Component>,
  inputs: Readonly<Record<string, unknown>> = {},
  providers: readonly Provider[] = [],
): Promise<Shown<Component>> {
  TestBed.resetTestingModule().configureTestingModule({ providers: [provideRouter([]), ...providers] });
  const fixture = TestBed.createComponent(type);
  const set = async (some: Readonly<Record<string, unknown>>) => {
    for (const [name, value] of Object.entries(some)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
  };
  await set(inputs);
  const element = fixture.nativeElement as HTMLElement;
  return {
    fixture,
    component: fixture.componentInstance,
    element,
    loader: TestbedHarnessEnvironment.loader(fixture),
    set,
    texts: (selector) =>
      [...element.querySelectorAll(selector)].map((one) => one.textContent.replaceAll(/\s+/g, ' ').trim()),
  };
}
