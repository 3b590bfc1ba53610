"""Coming in, one's own account, and the people of a shop, over the API."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, cast
from zoneinfo import available_timezones

from django.contrib.auth import update_session_auth_hash
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, serializers, status
from rest_framework.permissions import SAFE_METHODS, AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import AnonRateThrottle, UserRateThrottle
from rest_framework.views import APIView

from core.language import LANGUAGES
from server.api.access import SignedIn as AnybodySignedIn
from server.api.views import ShopView
from server.shops import accounts, logo, second_factor
from server.shops.account_log import MOST_SHOWN, Kind, note
from server.shops.keys import end_keys
from server.shops.models import AccountEvent, Paper, Shop, SignedIn, Units, User
from server.shops.sessions import MUST_ENROL, end_all
from server.shops.tasks import mail_link
from server.shops.views import PersonSerializer, signed_in


class PasswordField(serializers.CharField):
    def __init__(self, **options: Any) -> None:
        super().__init__(max_length=200, trim_whitespace=False, write_only=True, **options)


class SetUpSerializer(serializers.Serializer[Any]):
    code = serializers.CharField(max_length=200)
    shop = serializers.CharField(max_length=200)
    name = serializers.CharField(max_length=200)
    email = serializers.EmailField(max_length=200)
    password = PasswordField()


class WelcomeSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    email = serializers.EmailField(read_only=True)
    shop = serializers.CharField(source="shop.name", read_only=True)
    password = PasswordField()


class ForgottenSerializer(serializers.Serializer[Any]):
    email = serializers.EmailField(max_length=200)


class ColleagueSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField(read_only=True)
    name = serializers.CharField(max_length=200)
    email = serializers.EmailField(max_length=200, read_only=True)
    role = serializers.ChoiceField(choices=User.Role.choices)
    active = serializers.BooleanField(source="is_active")


class InvitationSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    email = serializers.EmailField(max_length=200)
    role = serializers.ChoiceField(choices=User.Role.choices)


class PersonalLinkSerializer(serializers.Serializer[Any]):
    address = serializers.CharField()
    mailed = serializers.BooleanField()


class OwnSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    email = serializers.EmailField(read_only=True)
    units = serializers.ChoiceField(
        choices=["", *Units.values], required=False, help_text="of one's own; empty: the shop's"
    )
    second_factor = serializers.SerializerMethodField()

    def get_second_factor(self, user: User) -> bool:
        return second_factor.confirmed(user)


class NewPasswordSerializer(serializers.Serializer[Any]):
    old = PasswordField()
    password = PasswordField()


class EnrolmentSerializer(serializers.Serializer[Any]):
    address = serializers.CharField()
    picture = serializers.CharField(help_text="the same, drawn as SVG")


class CodeSerializer(serializers.Serializer[Any]):
    code = serializers.CharField(max_length=20)


class RecoverySerializer(serializers.Serializer[Any]):
    codes = serializers.ListField(child=serializers.CharField())


class OwnPasswordSerializer(serializers.Serializer[Any]):
    password = PasswordField()


class OwnSessionSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    device = serializers.CharField()
    seen = serializers.DateTimeField()
    here = serializers.BooleanField()


class AccountEventSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=Kind.choices)
    whom = serializers.CharField(source="whom.name")
    by = serializers.CharField(source="by.name")
    address = serializers.CharField()
    told = serializers.CharField()
    at = serializers.DateTimeField()


class ShopSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    address = serializers.CharField(max_length=1000, allow_blank=True)
    liability = serializers.CharField(max_length=4000, allow_blank=True)
    fee = serializers.CharField(max_length=300, allow_blank=True)
    units = serializers.ChoiceField(
        choices=Units.values, required=False, help_text="of its reports, where nobody chooses"
    )
    time_zone = serializers.CharField(
        max_length=64, required=False, help_text="as the IANA names them, such as Europe/Oslo"
    )
    language = serializers.ChoiceField(
        choices=list(LANGUAGES.items()), required=False, help_text="of its reports"
    )
    paper = serializers.ChoiceField(choices=Paper.choices, required=False)
    keep_clients = serializers.IntegerField(
        min_value=1, max_value=30, allow_null=True, required=False,
        help_text="years after which clients are erased of whose engines nothing came since",
    )  # fmt: skip
    second_factor = serializers.BooleanField()

    def validate_time_zone(self, name: str) -> str:
        if name not in available_timezones():
            raise serializers.ValidationError("a time zone such as Europe/Oslo")
        return name


class Forgetting(AnonRateThrottle):
    """So many asked-for links an hour for an address."""

    rate = "20/hour"


@method_decorator(csrf_protect, name="dispatch")
class DoorView(APIView):
    """For whoever comes with a link and without a session."""

    permission_classes = [AllowAny]

    def given(self, serializer: type[serializers.Serializer[Any]]) -> dict[str, Any]:
        made = serializer(data=self.request.data)
        made.is_valid(raise_exception=True)
        return dict(made.validated_data)


class SetUpView(DoorView):
    """The first owner of a new shop, by the link that the server's shell printed."""

    @extend_schema(operation_id="set_up", request=SetUpSerializer, responses=PersonSerializer)
    def post(self, request: Request) -> Response:
        given = self.given(SetUpSerializer)
        owner = accounts.Newcomer(given["name"], given["password"])
        user = accounts.set_up(given["code"], given["shop"], given["email"], owner)
        return signed_in(request, user)


class WelcomeView(DoorView):
    """Setting a password by one's own link: invited, or forgotten."""

    @extend_schema(operation_id="welcomed", responses=WelcomeSerializer)
    def get(self, request: Request, who: str, token: str) -> Response:
        return Response(WelcomeSerializer(accounts.followed(who, token)).data)

    @extend_schema(operation_id="welcome", request=WelcomeSerializer, responses=PersonSerializer)
    def post(self, request: Request, who: str, token: str) -> Response:
        given = accounts.Newcomer(**self.given(WelcomeSerializer))
        user = accounts.welcome(who, token, given)
        note(request._request, Kind.LINK_USED, user)
        if second_factor.confirmed(user):
            # A link does not stand in for the second factor: the door asks for it.
            raise exceptions.AuthenticationFailed(
                "The password is set. Sign in with it and your second factor.", "second-factor"
            )
        return signed_in(request, user)


class ForgottenView(DoorView):
    """Asking for a new way in; the answer is the same whoever asks."""

    throttle_classes = [Forgetting]

    @extend_schema(operation_id="forgotten", request=ForgottenSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        email = self.given(ForgottenSerializer)["email"].lower()
        user = User.objects.filter(email=email, is_active=True).select_related("shop").first()
        if user is not None and mail_link(user, _origin(request)):
            note(request._request, Kind.LINK_MADE, user, told="asked for at the door")
        return Response(status=status.HTTP_204_NO_CONTENT)


class PeopleView(ShopView):
    """Who works in this shop; asking somebody in."""

    owners_only = ("POST",)

    @extend_schema(operation_id="people", responses=ColleagueSerializer(many=True))
    def get(self, request: Request) -> Response:
        people = User.objects.filter(shop_id=self.user.shop_id).order_by("name", "id")
        return Response(ColleagueSerializer(people, many=True).data)

    @extend_schema(
        operation_id="invite", request=InvitationSerializer, responses={201: PersonalLinkSerializer}
    )
    def post(self, request: Request) -> Response:
        given = InvitationSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        invited = accounts.invite(self.user.shop, **given.validated_data)
        note(request._request, Kind.INVITED, invited, told=invited.role)
        return _link(request, invited, status.HTTP_201_CREATED)


def _link(request: Request, user: User, code: int = status.HTTP_200_OK) -> Response:
    """A way in goes to its person's own address; only where there is no mail it is handed over."""
    origin = _origin(request)
    mailed = mail_link(user, origin)
    body = {"address": "" if mailed else origin + accounts.link_of(user), "mailed": mailed}
    return Response(PersonalLinkSerializer(body).data, status=code)


def _origin(request: Request) -> str:
    return request.build_absolute_uri("/").rstrip("/")


class PersonView(ShopView):
    """One of them: role, name, whether they may come in."""

    owners_only = ("PUT", "POST", "DELETE")

    def person(self, person_id: str) -> User:
        return get_object_or_404(User, pk=person_id, shop_id=self.user.shop_id)

    @extend_schema(
        operation_id="change_person", request=ColleagueSerializer, responses=ColleagueSerializer
    )
    def put(self, request: Request, person_id: str) -> Response:
        given = ColleagueSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        person, said = self.person(person_id), given.validated_data
        before = person.role, person.is_active
        accounts.change(person, role=said["role"], active=said["is_active"], name=said["name"])
        if before != (person.role, person.is_active):
            told = person.role if person.is_active else "shut out"
            note(request._request, Kind.ROLE, person, told=told)
        return Response(ColleagueSerializer(person).data)

    @extend_schema(operation_id="new_link", request=None, responses=PersonalLinkSerializer)
    def post(self, request: Request, person_id: str) -> Response:
        person = self.person(person_id)
        if not person.is_active:
            raise exceptions.ValidationError({"active": "an account that may come in"})
        note(request._request, Kind.LINK_MADE, person)
        return _link(request, person)


class Guessing(UserRateThrottle):
    """So many times an hour a session may say its person's password, or what it takes for it."""

    scope = "own-password"
    rate = "20/hour"

    def allow_request(self, request: Request, view: APIView) -> bool:
        if request.method in (*SAFE_METHODS, "DELETE"):
            return True
        return bool(super().allow_request(request, view))


class OwnThingsView(ShopView):
    """What everybody may change of their own, whatever their role."""

    permission_classes = [AnybodySignedIn]

    def check_password(self, password: str) -> None:
        if not self.user.check_password(password):
            raise exceptions.PermissionDenied("That is not the present password.", "wrong-password")

    def confirm(self, request: Request) -> None:
        """Go on only with the password, whoever holds the session."""
        given = OwnPasswordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        self.check_password(given.validated_data["password"])


class MeView(OwnThingsView):
    """One's own name."""

    @extend_schema(operation_id="me", responses=OwnSerializer)
    def get(self, request: Request) -> Response:
        return Response(OwnSerializer(self.user).data)

    @extend_schema(operation_id="change_me", request=OwnSerializer, responses=OwnSerializer)
    def put(self, request: Request) -> Response:
        given = OwnSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        for name, value in given.validated_data.items():
            setattr(self.user, name, value)
        self.user.save(update_fields=["name", "units"])
        return Response(OwnSerializer(self.user).data)


class MyPasswordView(OwnThingsView):
    """A new password; every other session ends."""

    throttle_classes = [Guessing]

    @extend_schema(
        operation_id="change_password", request=NewPasswordSerializer, responses={204: None}
    )
    def put(self, request: Request) -> Response:
        given = NewPasswordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        self.check_password(given.validated_data["old"])
        password = accounts.checked_password(given.validated_data["password"], self.user)
        self.user.set_password(password)
        self.user.save(update_fields=["password"])
        end_all(self.user, but=request.session.session_key)
        end_keys(self.user)
        note(request._request, Kind.PASSWORD, self.user)
        update_session_auth_hash(request._request, self.user)
        return Response(status=status.HTTP_204_NO_CONTENT)


class MySecondFactorView(OwnThingsView):
    """Adding the second factor in two steps, and taking it away with the password."""

    throttle_classes = [Guessing]

    @extend_schema(
        operation_id="begin_second_factor",
        request=OwnPasswordSerializer,
        responses=EnrolmentSerializer,
    )
    def post(self, request: Request) -> Response:
        self.confirm(request)
        return Response(EnrolmentSerializer(asdict(second_factor.begin(self.user))).data)

    @extend_schema(
        operation_id="confirm_second_factor", request=CodeSerializer, responses=RecoverySerializer
    )
    def put(self, request: Request) -> Response:
        given = CodeSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        codes = second_factor.confirm(self.user, given.validated_data["code"])
        end_keys(self.user)
        request.session.pop(MUST_ENROL, None)
        note(request._request, Kind.FACTOR_ADDED, self.user)
        return Response(RecoverySerializer({"codes": codes}).data)


class ForgetSecondFactorView(OwnThingsView):
    """Taking it away."""

    throttle_classes = [Guessing]

    @extend_schema(
        operation_id="forget_second_factor", request=OwnPasswordSerializer, responses={204: None}
    )
    def post(self, request: Request) -> Response:
        self.confirm(request)
        if self.user.shop.second_factor:
            raise exceptions.PermissionDenied("This shop wants a second factor.", "required")
        second_factor.forget(self.user)
        end_keys(self.user)
        note(request._request, Kind.FACTOR_TAKEN, self.user)
        return Response(status=status.HTTP_204_NO_CONTENT)


class MySessionsView(OwnThingsView):
    """Where one is signed in; ending it everywhere else."""

    @extend_schema(operation_id="my_sessions", responses=OwnSessionSerializer(many=True))
    def get(self, request: Request) -> Response:
        rows = [
            {
                "id": one.session_key[:8],
                "device": one.device,
                "seen": one.seen,
                "here": one.session_key == request.session.session_key,
            }
            for one in SignedIn.objects.filter(user=self.user).order_by("-seen")
        ]
        return Response(OwnSessionSerializer(rows, many=True).data)

    @extend_schema(operation_id="end_other_sessions", responses={204: None})
    def delete(self, request: Request) -> Response:
        end_all(self.user, but=request.session.session_key)
        return Response(status=status.HTTP_204_NO_CONTENT)


class MyAccountLogView(OwnThingsView):
    """What happened to one's own account."""

    @extend_schema(operation_id="my_account_log", responses=AccountEventSerializer(many=True))
    def get(self, request: Request) -> Response:
        return _happened(AccountEvent.objects.filter(whom=self.user))


class AccountLogView(ShopView):
    """What happened to the shop's accounts, for its owners."""

    owners_only = ("GET",)

    @extend_schema(operation_id="account_log", responses=AccountEventSerializer(many=True))
    def get(self, request: Request) -> Response:
        return _happened(AccountEvent.objects.filter(shop_id=self.user.shop_id))


def _happened(rows: QuerySet[AccountEvent]) -> Response:
    """The latest of some events."""
    latest = rows.select_related("whom", "by")[:MOST_SHOWN]
    return Response(AccountEventSerializer(latest, many=True).data)


class ShopDetailsView(ShopView):
    """The shop's own name and words, and what it asks of its people."""

    owners_only = ("PUT",)

    @extend_schema(operation_id="shop", responses=ShopSerializer)
    def get(self, request: Request) -> Response:
        return Response(ShopSerializer(self.user.shop).data)

    @extend_schema(operation_id="change_shop", request=ShopSerializer, responses=ShopSerializer)
    def put(self, request: Request) -> Response:
        given = ShopSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        shop = self.user.shop
        wanted = given.validated_data["second_factor"] and not shop.second_factor
        if wanted and not second_factor.confirmed(self.user):
            raise exceptions.ValidationError({"second_factor": "an owner who has one"})
        Shop.objects.filter(pk=shop.pk).update(**given.validated_data)
        if wanted:
            # Whoever has none is asked for it when they next sign in, which is now.
            for one in shop.people.all():
                if not second_factor.confirmed(one):
                    end_all(one)
        shop.refresh_from_db()
        return Response(ShopSerializer(shop).data)


class LogoView(ShopView):
    """The picture on its reports."""

    parser_classes = [logo.Picture]
    owners_only = ("PUT", "DELETE")

    @extend_schema(operation_id="change_logo", request=bytes, responses={204: None})
    def put(self, request: Request) -> Response:
        shop = self.user.shop
        shop.logo = logo.made_safe(cast(bytes, request.data))
        shop.save(update_fields=["logo"])
        return Response(status=status.HTTP_204_NO_CONTENT)

    @extend_schema(operation_id="remove_logo", responses={204: None})
    def delete(self, request: Request) -> Response:
        Shop.objects.filter(pk=self.user.shop_id).update(logo=b"")
        return Response(status=status.HTTP_204_NO_CONTENT)
