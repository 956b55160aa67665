/** Asks the browser to keep this page for a reload without network. Without https or localhost it cannot, and need not. */
export async function keepForOfflineReload(): Promise<void> {
  if (!('serviceWorker' in navigator)) return;
  try {
    await navigator.serviceWorker.register('/sw.js');
    await document.fonts.ready;
    const ready = await navigator.serviceWorker.ready;
    ready.active?.postMessage(['/taster.html', '/icon.svg', ...loadedFiles()]);
  } catch {
    // kept scores do not depend on it
  }
}

function loadedFiles(): string[] {
  const urls = performance.getEntriesByType('resource').map((entry) => entry.name);
  return [...new Set(urls.filter((url) => new URL(url).pathname.startsWith('/assets/')))];
}
