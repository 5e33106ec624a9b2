"""What the job list shows: its filters and order, as an address, and remembered between visits."""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from urllib.parse import parse_qsl, urlencode

from uranograph.shop.loading import ListOrder
from uranograph.shop.shelving import Shelf

# Filters of the list by worst finding.
STATES = {"out": "Something out", "unsure": "Cannot tell", "well": "Nothing wrong"}
LONGEST = 120


@dataclass(frozen=True)
class JobQuery:
    """Filters and order of the job list; what is no such thing filters nothing."""

    q: str = ""
    shelf: str = Shelf.BENCH
    order: str = ListOrder.NEWEST
    stands: str = ""
    who: str = ""
    page: int = 1

    @classmethod
    def of(cls, asked: Mapping[str, str]) -> "JobQuery":
        """The query that an address states.

        Examples
        --------
        >>> JobQuery.of({"shelf": "attic", "order": "name", "page": "x"})
        JobQuery(q='', shelf=<Shelf.BENCH: 'bench'>, order=<ListOrder.NAME: 'name'>, stands='', who='', page=1)
        """
        shelf, order, page = asked.get("shelf", ""), asked.get("order", ""), asked.get("page", "")
        return cls(
            asked.get("q", "")[:LONGEST],
            Shelf(shelf) if shelf in tuple(Shelf) else Shelf.BENCH,
            ListOrder(order) if order in tuple(ListOrder) else ListOrder.NEWEST,
            asked.get("stands", "") if asked.get("stands") in STATES else "",
            asked.get("who", "").strip().upper()[:8],
            int(page) if page.isascii() and page.isdecimal() and len(page) < 8 else 1,
        )

    @classmethod
    def remembered(cls, text: str) -> "JobQuery":
        """The query that `encoded` made a text of; its first page."""
        return replace(cls.of(dict(parse_qsl(text))), page=1)

    @property
    def encoded(self) -> str:
        """The query as an address has it; empty where it is the list as it comes."""
        usual = JobQuery()
        named = {each.name: getattr(self, each.name) for each in fields(self)}
        return urlencode({name: value for name, value in named.items() if value != getattr(usual, name)})

    @property
    def narrowed(self) -> bool:
        """Whether anything but the shelf is filtered."""
        return bool(self.q.strip() or self.stands or self.who)

    def link(self, page: int = 1, **changed: str) -> str:
        """The address of the list with something else chosen, from its first page on."""
        return f"/?{replace(self, page=page, **changed).encoded or 'shelf=bench'}"
