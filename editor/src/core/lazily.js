// Parts of the room that are loaded when they are first asked for, so that the first letter waits for none of them.
const AWAY = "This part of the room could not be loaded; try again when the network is back.";

// Answers with a function that does something with the part: at once when it is there, else once `load` has brought its
// module and `make` has made it. Nobody asked for what it does `quietly`, or for the part that `warm` brings: nothing is said when
// it cannot come, so that the words of something that somebody did ask for stand.
export function lazily(load, make, tell) {
  let part = null;
  let coming = null;
  const bring = () =>
    (coming ??= load().then(
      (module) => (part = make(module)),
      (error) => {
        coming = null; // asked for again when it is needed
        throw error;
      },
    ));
  const use = async (act) => {
    if (part) return act(part);
    try {
      await bring();
    } catch (error) {
      tell(AWAY, true);
      throw error;
    }
    return act(part);
  };
  use.quietly = (act) => bring().then(() => act(part), () => {});
  use.warm = () => use.quietly(() => {});
  return use;
}

let htmxLoading = null;

// The docket's requests go by htmx, which comes with the first of them.
export function withHtmx() {
  if (!window.htmx && !navigator.onLine) return Promise.reject(new Error(AWAY)); // asked for again when it is needed
  const { htmx: address } = document.getElementById("docket").dataset;
  htmxLoading ??= new Promise((resolve, reject) => {
    if (window.htmx) resolve(window.htmx);
    const script = Object.assign(document.createElement("script"), { src: address, onload: () => resolve(window.htmx), onerror: reject });
    document.head.append(script);
  }).catch((error) => {
    htmxLoading = null;
    throw error;
  });
  return htmxLoading;
}
