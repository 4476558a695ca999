"""Announces posts at accounts elsewhere: by Micropub (W3C Recommendation, 2017), or at a made-up account."""

from __future__ import annotations

from mobbet.core.announcing import STAND_IN
from mobbet.core.errors import NotTaken
from mobbet.services.contracts import Notice, OtherPages
from mobbet.services.stand_ins.accounts import NoticeBoard

LATER = (429, 500, 502, 503, 504)


class Accounts:
    """Hands a notice to the account that it is for."""

    def __init__(self, pages: OtherPages) -> None:
        self._pages = pages
        self.board = NoticeBoard()

    def announce(self, notice: Notice) -> str:
        return self.board.announce(notice) if notice.kind == STAND_IN else self._by_micropub(notice)

    def _by_micropub(self, notice: Notice) -> str:
        fields = {"h": "entry", "content": notice.text, "bookmark-of": notice.link}
        if notice.picture:
            fields |= {"photo": notice.picture, "mp-photo-alt": notice.alt}
        answer = self._pages.post(notice.endpoint, fields, {"Authorization": f"Bearer {notice.token}"})
        if answer.status in LATER:
            raise NotTaken(f"{notice.endpoint} answered with {answer.status}.", "later")
        if not 200 <= answer.status < 300:
            raise NotTaken(f"{notice.endpoint} refused it with {answer.status}; check its token.", "final")
        return answer.address if answer.address != notice.endpoint else ""
