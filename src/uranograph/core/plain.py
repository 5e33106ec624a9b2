"""Text as people write it: without what no pen leaves on paper."""

import re

# Control characters but for the end of a line and a tab, halves of letters, and marks that turn the direction of writing.
_UNSEEN = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\u202a-\u202e\u2066-\u2069\ufffe\uffff]")


def plain(text: str) -> str:
    """Text without control characters; ends of lines as one character each.

    Examples
    --------
    >>> plain("14.5\\x0b"), plain("one\\r\\ntwo")
    ('14.5', 'one\\ntwo')
    """
    return _UNSEEN.sub("", text.replace("\r\n", "\n").replace("\r", "\n"))


def is_plain(text: str) -> bool:
    """Whether there is nothing in a text that cannot be seen.

    Examples
    --------
    >>> is_plain("14.5"), is_plain("14\\x0b5")
    (True, False)
    """
    return _UNSEEN.search(text) is None
