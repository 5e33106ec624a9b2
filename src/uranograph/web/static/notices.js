// When the server refuses, say so and leave everything as typed.
(() => {
  const notice = () => document.getElementById("notice");

  const tell = (words) => {
    notice().textContent = words;
    notice().hidden = false;
  };

  const quiet = (event) => event.detail.requestConfig && event.detail.requestConfig.path.endsWith("/preview");

  document.addEventListener("htmx:responseError", (event) => {
    if (!quiet(event)) tell(`Not recorded: ${event.detail.xhr.responseText.slice(0, 300) || "the page could not be read."}`);
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.successful && !event.detail.elt.matches(".rail")) notice().hidden = true;
  });
})();
