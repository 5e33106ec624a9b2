"""At every station of every demo job: what to do, the field, the verdict, the order and the main button are in sight together."""

import pytest
from playwright.sync_api import Browser

from tests.browser.conftest import Server
from uranograph.stations import ORDER

# On a bench and on a tablet it is the same page, drawn narrower.
BENCH, PHONE = ((1280, 800), (1024, 768)), ((390, 844),)
# Parts that are drawn but cut off, and whether what to do and a main button are there at all.
OUT_OF_SIGHT = """() => {
  const pad = document.querySelector('.pad');
  const floor = pad && getComputedStyle(pad).display !== 'none' ? pad.getBoundingClientRect().top : innerHeight;
  const found = [];
  const seen = new Set();
  for (const part of document.querySelectorAll('[data-panel]')) {
    const box = part.getBoundingClientRect();
    if (!box.width || !box.height || part.closest('details:not([open])')) continue;
    seen.add(part.dataset.panel);
    const scrolls = part.closest('.panel-scroll');
    let least = part.closest('.pad') ? innerHeight : floor;
    if (scrolls && getComputedStyle(scrolls).display !== 'contents') least = Math.min(least, scrolls.getBoundingClientRect().bottom);
    if (box.top < 0 || box.bottom > least + 1) found.push(`${part.dataset.panel} ends at ${box.bottom}, cut at ${least}`);
  }
  for (const part of ['do', 'main']) if (!seen.has(part)) found.push(`no ${part}`);
  const large = parseFloat(getComputedStyle(document.querySelector('[data-panel=do]') ?? document.body).fontSize);
  if (large < 28) found.push(`what to do is ${large} px`);
  return found;
}"""


@pytest.mark.parametrize(("sizes", "touched"), [(BENCH, False), (PHONE, True)], ids=["bench", "phone"])
def test_all_that_counts_is_in_sight_together(
    browser: Browser, demo: Server, demo_keys: dict[str, str], sizes: tuple[tuple[int, int], ...], *, touched: bool
) -> None:
    width, height = sizes[0]
    context = browser.new_context(
        viewport={"width": width, "height": height}, has_touch=touched, is_mobile=touched, reduced_motion="reduce"
    )
    context.add_cookies([{"name": "uranograph_by", "value": "RK", "url": demo.url}])
    page = context.new_page()
    cut = {}
    try:
        for title, key in demo_keys.items():
            for station in ORDER.stations:
                page.goto(f"{demo.url}/jobs/{key}/{station.key}")
                for wide, high in sizes:
                    if len(sizes) > 1:
                        page.set_viewport_size({"width": wide, "height": high})
                    if found := page.evaluate(OUT_OF_SIGHT):
                        cut[title, station.key, wide] = found
    finally:
        context.close()
    assert cut == {}
