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


class ChangedMeanwhile(exceptions.APIException):
    """What somebody else has written since is not overwritten unseen."""

    status_code = status.HTTP_409_CONFLICT
    default_code = "changed-meanwhile"
    default_detail = "Somebody has changed this since you opened it; look at it again first."


class ShopView(APIView):
    """A view for people of a shop."""

    @property
    def user(self) -> User:
        return cast(User, self.request.user)

    def written_by(self, author: UUID | None) -> User:
        """Who entered what is sent: the person who is signed in, and nobody else.

        A device keeps what its people entered; a session may change under a page that is open. What
        somebody left there who may no longer write, an owner sends in their name.
        """
        if author is None or author == self.user.pk:
            return self.user
        if self.user.role == User.Role.OWNER:
            writer = User.objects.filter(pk=author, shop=self.user.shop).first()
            if writer is not None and not (writer.is_active and writer.may_write):
                return writer
        raise AnotherAuthor

    def sends_for(self, by: User) -> User | None:
        """The person who is signed in, where they send what somebody else entered."""
        return self.user if by != self.user else None
