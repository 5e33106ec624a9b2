// Tries a calculation from its page: what is typed goes to the same address that programs use.
document.addEventListener("DOMContentLoaded", () => {
  const form = document.querySelector("[data-try]");
  if (!form) return;
  const examples = JSON.parse(document.getElementById("examples").textContent);
  const [name, given, answer, took] = ["calculation", "given", "answer", "took"].map((id) => document.getElementById(id));
  const begin = () => {
    given.value = JSON.stringify(examples[name.value], null, 2);
    answer.textContent = "";
    took.textContent = "";
  };
  name.addEventListener("change", begin);
  form.querySelector("[data-example]").addEventListener("click", begin);
  form.addEventListener("submit", async (event) => {
    event.preventDefault();
    const start = performance.now();
    try {
      const found = await fetch(`${document.documentElement.dataset.root}api/calc/${name.value}`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: given.value,
      });
      answer.textContent = JSON.stringify(await found.json(), null, 2);
      took.textContent = `${found.ok ? "Answered" : `Refused (${found.status})`} in ${Math.round(performance.now() - start)} ms`;
    } catch {
      took.textContent = "Uranograph does not answer just now; what you typed is still here.";
    }
  });
  begin();
});
