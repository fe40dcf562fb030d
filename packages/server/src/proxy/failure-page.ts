function escapeText(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
}

/** The page shown in place of an app that does not answer: what happened, why, what to do. */
export function explainFailure(targetOrigin: string, error: Error & { code?: string }): string {
  const why =
    error.code === 'ECONNREFUSED'
      ? 'Nothing listens at this address.'
      : `The connection failed: ${error.code ?? error.message}.`;
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>The app does not answer</title>
<style>body{font:16px/1.5 sans-serif;max-width:34rem;margin:4rem auto;padding:0 1rem;color:#1f2a26;background:#fbf9f4}</style>
<h1>The app does not answer</h1>
<p>Nettle Patch stands in front of <code>${escapeText(targetOrigin)}</code>. ${escapeText(why)}</p>
<p>Start the app's own server, or start Nettle Patch with its address (<code>nettle-patch http://localhost:3000</code>), then load this page again.</p>
</html>`;
}
