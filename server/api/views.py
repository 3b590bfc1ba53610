"""What every view of a shop's things has in common."""

from __future__ import annotations

from typing import cast

from rest_framework.views import APIView

from server.shops.models import User


class ShopView(APIView):
    """A view for people of a shop."""

    @property
    def user(self) -> User:
        return cast(User, self.request.user)
