"""Every demo job's sheet on paper: the result is one page, the verdict first; nothing is lettered too small to read."""

import re

import pytest
from playwright.sync_api import Browser

from tests.browser.conftest import Server

# A4 less its margins of 10 mm, at 96 px an inch; 8 pt are 10.67 px.
WIDTH, HEIGHT, LEAST_LETTER = 718, 1047, 10.6
SHEET = """() => {
  const top = document.querySelector('.build-sheet').getBoundingClientRect().top;
  const at = part => document.querySelector(part).getBoundingClientRect();
  const small = new Set();
  for (const part of document.querySelectorAll('.build-sheet *')) {
    const own = [...part.childNodes].some(node => node.nodeType === 3 && node.textContent.trim());
    const box = part.getBoundingClientRect();
    if (!own || !box.width || part.closest('.not-printed')) continue;
    let size = parseFloat(getComputedStyle(part).fontSize);
    const drawn = part.closest('svg');
    if (drawn && drawn.viewBox.baseVal.width) size *= drawn.getBoundingClientRect().width / drawn.viewBox.baseVal.width;
    if (size < LEAST) small.add(`${size.toFixed(1)}: ${part.textContent.trim().slice(0, 40)}`);
  }
  return {
    foot: at('.sheet-foot').bottom - top,
    verdict: at('.sheet-verdict').top - top,
    chart: at('.sheet-columns figure svg').width,
    order: [...document.querySelectorAll('.build-sheet > :not(.not-printed)')].map(part => part.className.split(' ')[0]).slice(0, 3),
    small: [...small],
  };
}"""


def test_the_result_is_one_page_and_evidence_follows(browser: Browser, demo: Server, demo_keys: dict[str, str]) -> None:
    page = browser.new_page(viewport={"width": WIDTH, "height": HEIGHT})
    page.emulate_media(media="print")
    try:
        for title, key in demo_keys.items():
            page.goto(f"{demo.url}/jobs/{key}/sheet")
            sheet = page.evaluate(SHEET.replace("LEAST", str(LEAST_LETTER)))
            assert sheet["foot"] <= HEIGHT, title
            assert sheet["order"] == ["sheet-top", "sheet-verdict", "sheet-columns"], title
            assert sheet["verdict"] < 120, title
            assert sheet["chart"] > WIDTH / 2, title
            assert sheet["small"] == [], title
            pages = len(re.findall(rb"/Type\s*/Page\b", page.pdf(format="A4", prefer_css_page_size=True)))
            assert pages == 2, title
    finally:
        page.close()
    assert demo_keys


@pytest.mark.parametrize("light", ["day", "night"])
def test_paper_is_white_whatever_the_light(
    browser: Browser, demo: Server, demo_keys: dict[str, str], light: str
) -> None:
    context = browser.new_context(viewport={"width": WIDTH, "height": HEIGHT})
    context.add_cookies([{"name": "uranograph_light", "value": light, "url": demo.url}])
    page = context.new_page()
    page.emulate_media(media="print")
    try:
        page.goto(f"{demo.url}/jobs/{next(iter(demo_keys.values()))}/sheet")
        assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"
    finally:
        context.close()
