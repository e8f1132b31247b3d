"""`manage.py people`: what the page for administrators does, from a terminal."""

from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.core.management import CommandError, CommandParser
from django.core.management.base import BaseCommand
from django.urls import reverse

from cadrage.errors import BadRequest
from server.studio.actions import people


class Command(BaseCommand):
    """Lists, invites and changes people."""

    help = "Say who is at home here and uses how much; invite people, let them go, and set what they may use."

    def add_arguments(self, parser: CommandParser) -> None:
        """One word for each."""
        ways = parser.add_subparsers(dest="way", required=True)
        ways.add_parser("list", help="everybody, and what they use")
        invite = ways.add_parser("invite", help="a link by which somebody makes an account, once")
        invite.add_argument("--administrator", action="store_true")
        invite.add_argument("--days", type=int, default=people.INVITED_DAYS)
        change = ways.add_parser("change", help="what somebody is and may use")
        change.add_argument("name")
        change.add_argument("--active", choices=["yes", "no"])
        change.add_argument("--administrator", choices=["yes", "no"])
        change.add_argument("--gigabytes", type=float, help="0 is as for everybody")
        change.add_argument("--renders", type=int, help="at a time; 0 is as for everybody")

    def handle(self, *args: Any, way: str, **options: Any) -> None:
        """Do it."""
        {"list": self._list, "invite": self._invite, "change": self._change}[way](options)

    def _list(self, options: dict[str, Any]) -> None:
        for person in get_user_model().objects.order_by("username"):
            self._tell(person)

    def _tell(self, person: User) -> None:
        use = people.use_of(person)
        what = "administrator" if person.is_staff else "person"
        most = "" if use.gigabytes is None else f" of {use.gigabytes:g}"
        state = "" if person.is_active else ", not active"
        self.stdout.write(f"{person.get_username()}: {what}{state}, {use.used / 1e9:.2f}{most} GB")

    def _invite(self, options: dict[str, Any]) -> None:
        row = people.invite(administrator=options["administrator"], days=options["days"])
        scheme = "https" if settings.TLS else "http"
        self.stdout.write(f"{scheme}://{settings.ALLOWED_HOSTS[0]}{reverse('invited', kwargs={'token': row.token})}")

    def _change(self, options: dict[str, Any]) -> None:
        person = get_user_model().objects.filter(username=options["name"]).first()
        if person is None:
            raise CommandError(f"There is nobody called {options['name']}.")
        yes = {"yes": True, "no": False, None: None}
        try:
            people.change(
                person,
                active=yes[options["active"]],
                administrator=yes[options["administrator"]],
                gigabytes=options["gigabytes"],
                renders=options["renders"],
            )
        except BadRequest as error:
            raise CommandError(str(error)) from error
        self._tell(person)
