// What is typed and not yet recorded outlives a reload, the back button and a stopped server.
(() => {
  const place = (form) => `uranograph:${form.dataset.draft}`;

  const fields = (form) =>
    [...form.elements].filter((field) => field.name && field.type !== "hidden" && field.type !== "file");

  const keep = (form) => {
    const typed = {};
    for (const field of fields(form)) {
      if (field.type === "checkbox") typed[field.name] = field.checked;
      else if (field.type !== "radio" || field.checked) typed[field.name] = field.value;
    }
    sessionStorage.setItem(place(form), JSON.stringify(typed));
  };

  const restore = (form) => {
    const kept = sessionStorage.getItem(place(form));
    if (!kept) return;
    const typed = JSON.parse(kept);
    // A form that grows gets its room first.
    form.dispatchEvent(new CustomEvent("draft:coming", { bubbles: true, detail: typed }));
    for (const field of fields(form)) {
      if (!(field.name in typed) || field.readOnly) continue;
      if (field.type === "radio") field.checked = field.value === typed[field.name];
      else if (field.type === "checkbox") field.checked = typed[field.name] === true;
      else field.value = typed[field.name];
    }
    form.dispatchEvent(new Event("change", { bubbles: true }));
  };

  const all = (root) => root.querySelectorAll("form[data-draft]").forEach(restore);

  // The area beside the reading is redrawn with each answer: text typed there but not sent is kept.
  const beside = (root) =>
    root.querySelectorAll("form[data-draft][data-beside]").forEach((form) => {
      if (!sessionStorage.getItem(place(form))) return;
      restore(form);
      const fold = form.closest("details");
      if (fold) fold.open = true;
    });

  document.addEventListener("input", (event) => {
    const form = event.target.closest && event.target.closest("form[data-draft]");
    if (form) keep(form);
  });
  // Once the server has taken it, or has drawn it again itself, the draft has done its work.
  document.addEventListener("htmx:afterRequest", (event) => {
    const form = event.detail.elt.closest("form[data-draft]");
    const path = event.detail.pathInfo ? event.detail.pathInfo.requestPath : "";
    if (form && event.detail.xhr.status && event.detail.xhr.status < 300 && !path.endsWith("/preview")) {
      sessionStorage.removeItem(place(form));
    }
  });
  document.addEventListener("DOMContentLoaded", () => {
    all(document);
    beside(document);
  });
  document.addEventListener("htmx:afterSettle", () => beside(document));
})();
