// When the server is away, what was sent waits and goes out once it answers again.
(() => {
  const EVERY = 1500;
  const PATIENCE = 8000;
  const ALIVE = document.currentScript.src;
  const AWAY = "Uranograph does not answer. What you typed is kept, and sent as soon as it answers.";
  let waiting = null;

  const answers = async () => {
    try {
      await fetch(ALIVE, { method: "HEAD", cache: "no-store", signal: AbortSignal.timeout(PATIENCE) });
      return true;
    } catch {
      return false;
    }
  };

  const ask = async (done) => {
    if (!(await answers())) return setTimeout(() => ask(done), EVERY);
    waiting = null;
    return done();
  };

  const tell = (words) => {
    const notice = document.getElementById("notice");
    notice.textContent = words;
    notice.hidden = !words;
  };

  // Resolves once the server answers; those who wait at the same time wait together.
  const back = () => {
    tell(AWAY);
    waiting = waiting || new Promise((done) => setTimeout(() => ask(done), EVERY));
    return waiting.then(() => tell(""));
  };

  // Forms that the page sends itself: the last one of each place, as it stands when the server is back.
  const held = new Set();
  document.addEventListener("htmx:sendError", async (event) => {
    const { elt, requestConfig } = event.detail;
    if (!elt.matches("form, button") || requestConfig.verb !== "post" || requestConfig.path.endsWith("/preview") || held.has(elt)) return;
    held.add(elt);
    await back();
    held.delete(elt);
    if (!elt.isConnected) return;
    if (elt.matches("button")) elt.click();
    else elt.requestSubmit();
  });

  // Forms that lead to another page: sent only to a server that answers, or the page and what is typed in it would be gone.
  const asked = new WeakSet();
  document.addEventListener("submit", async (event) => {
    const form = event.target;
    if (event.defaultPrevented || form.method !== "post" || form.hasAttribute("hx-post") || asked.has(form)) {
      asked.delete(form);
      return;
    }
    event.preventDefault();
    if (held.has(form)) return;
    held.add(form);
    if (!(await answers())) await back();
    held.delete(form);
    if (!form.isConnected) return;
    asked.add(form);
    form.requestSubmit(event.submitter);
  });

  window.uranographAway = { back };
})();
