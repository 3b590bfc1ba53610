"""What every view of a shop's things has in common."""

from __future__ import annotations

from typing import cast
from uuid import UUID

from rest_framework import exceptions, status
from rest_framework.views import APIView

from server.shops.models import User


class AnotherAuthor(exceptions.APIException):
    """Nobody sends another's entries."""

    status_code = status.HTTP_409_CONFLICT
    default_code = "another-author"
    default_detail = "This was entered by somebody else than the person who is signed in."


class ShopView(APIView):
    """A view for people of a shop."""

    @property
    def user(self) -> User:
        return cast(User, self.request.user)

    def check_author(self, author: UUID | None) -> None:
        """Refuse what was made by somebody else than the person who is signed in.

        A device keeps what its people entered; a session may change under a page that is open.
        """
        if author is not None and author != self.user.pk:
            raise AnotherAuthor
