"""The shop's own name, address and mark, as its papers carry them."""

import base64
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.core.errors import InvalidInput
from uranograph.shop import library
from uranograph.shop.asides import keep_picture, media_type
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.shop.tables import LimitRow, PictureRow

NAME, ADDRESS, MARK = "shop_name", "shop_address", "shop_mark"
# A mark is printed inside every sheet that is signed, so it is kept small.
MAX_MARK_BYTES = 150_000


@dataclass(frozen=True)
class Letterhead:
    """What stands at the head of the shop's papers; `mark` is an address that carries the picture itself."""

    name: str = ""
    address: str = ""
    mark: str = ""


def letterhead(session: Session) -> Letterhead:
    """The shop's name, address and mark as they are now; empty where nobody stated them.

    Parameters
    ----------
    session
        A session of the shop's file.

    Returns
    -------
    Letterhead
        The mark as a `data:` address, so that a signed page needs no other file.
    """
    name, address, digest = (library.default_of(session, each) or "" for each in (NAME, ADDRESS, MARK))
    picture = session.get(PictureRow, digest) if digest else None
    if picture is None:
        return Letterhead(name, address)
    return Letterhead(name, address, f"data:{picture.media_type};base64,{base64.b64encode(picture.data).decode()}")


def set_letterhead(
    session: Session, name: str, address: str, by: str, picture: bytes = b"", without_mark: bool = False
) -> None:
    """State the shop's name, address and mark; what is the same as before is not written again.

    Parameters
    ----------
    session
        A writing session.
    name, address
        One line each.
    by
        Initials.
    picture
        A PNG or JPEG; empty keeps the mark as it is.
    without_mark
        Takes the mark away.

    Raises
    ------
    InvalidInput
        When a line is too long, the picture is none or too large, or the initials are missing.
    """
    wanted = {NAME: name.strip(), ADDRESS: address.strip()}
    for field, value in wanted.items():
        if len(value) > MAX_LENGTH["value"]:
            raise InvalidInput(field, "line-too-long", longest=MAX_LENGTH["value"])
    if len(picture) > MAX_MARK_BYTES:
        raise InvalidInput(MARK, "mark-too-large", kilobytes=MAX_MARK_BYTES // 1000)
    if picture:
        try:
            media_type(picture)
            wanted[MARK] = keep_picture(session, picture)
        except InvalidInput as error:
            raise error.at(MARK) from error
    elif without_mark:
        wanted[MARK] = ""
    for field, value in wanted.items():
        if value != (library.default_of(session, field) or ""):
            library.set_default(session, field, value, by)


def marks(session: Session) -> set[str]:
    """Digests of every mark that the shop has ever had: pictures that no job may take along when it goes."""
    return set(session.scalars(select(LimitRow.value).where(LimitRow.name == MARK, LimitRow.value != "")))
