// Asks the browser to send what waits when the network is back, also while every page is closed, where it can.
export function askForSync() {
  navigator.serviceWorker?.ready.then(({ sync }) => sync?.register("mobbet-send")).catch(() => {});
}
