import type { Passenger } from '../../data/passengers';
import { byId, make } from '../dom';
import type { FaultSwitches } from '../faults';
import { ManifestIndex, searchSlowly } from './search';

const ROW_HEIGHT = 30;
const SPARE_ROWS = 6;

/** The passenger manifest: a long list of which only the rows in sight are in the document. */
class Manifest {
  #shown: readonly Passenger[] = [];
  readonly #scroller = byId('manifest-scroller');
  readonly #rows = byId('manifest-rows');

  constructor() {
    this.#scroller.addEventListener('scroll', () => this.#drawRows());
  }

  show(passengers: readonly Passenger[], total: number): void {
    this.#shown = passengers;
    byId('manifest-count').textContent =
      `${passengers.length.toLocaleString('en')} of ${total.toLocaleString('en')}`;
    this.#rows.style.height = `${passengers.length * ROW_HEIGHT}px`;
    this.#scroller.scrollTop = 0;
    this.#drawRows();
  }

  #drawRows(): void {
    const first = Math.max(0, Math.floor(this.#scroller.scrollTop / ROW_HEIGHT) - SPARE_ROWS);
    const count = Math.ceil(this.#scroller.clientHeight / ROW_HEIGHT) + 2 * SPARE_ROWS;
    const rows = this.#shown.slice(first, first + count).map((passenger, index) => {
      const row = make('li', 'passenger');
      row.style.top = `${(first + index) * ROW_HEIGHT}px`;
      row.append(
        make('span', 'name', passenger.name),
        make('span', 'port', passenger.port),
        make('span', 'seat', passenger.seat),
        make('span', 'plate', passenger.vehicle),
      );
      return row;
    });
    this.#rows.replaceChildren(...rows);
  }
}

/** Shows the manifest and searches it on every keystroke. */
export function keepManifest(passengers: readonly Passenger[], switches: FaultSwitches): void {
  const manifest = new Manifest();
  const field = byId<HTMLInputElement>('search-manifest');
  let index: ManifestIndex | undefined;
  const search = (typed: string) => {
    if (!switches.isMended('manifest-search')) return searchSlowly(passengers, typed);
    index ??= new ManifestIndex(passengers);
    return index.search(typed);
  };
  if (switches.isMended('manifest-search')) index = new ManifestIndex(passengers);
  field.addEventListener('input', function onSearchInput() {
    manifest.show(search(field.value), passengers.length);
  });
  manifest.show(passengers, passengers.length);
}
