/** In a page: has the engine tell of all changes, as the recorder does, to nobody. */
export function observeChanges() {
  const everything = {
    subtree: true,
    childList: true,
    attributes: true,
    characterData: true,
    characterDataOldValue: true,
  };
  new MutationObserver(() => {}).observe(document, everything);
}
