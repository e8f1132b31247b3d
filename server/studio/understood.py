"""What was understood of the settings, said in words; secrets are not said."""

from collections.abc import Iterator
from pathlib import Path

from django.conf import settings


def understood() -> Iterator[tuple[str, str, str]]:
    """Each setting: its name, its value, and what it means here."""
    yield "CADRAGE_DATA", str(settings.DATA_DIR), "the database and what is kept of pictures lie here"
    yield "CADRAGE_MEDIA", str(settings.MEDIA_DIR), "footage and results lie here"
    yield "CADRAGE_HOSTS", ", ".join(settings.ALLOWED_HOSTS), "names that the server answers to"
    tls = "a proxy with TLS stands before it: cookies go over TLS only" if settings.TLS else "there is no TLS"
    yield "CADRAGE_TLS", "1" if settings.TLS else "", tls
    proxy = "its word is taken for who asks" if settings.PROXY else "nobody's word is taken for who asks"
    yield "CADRAGE_PROXY", settings.PROXY, proxy
    accel = "the proxy hands out finished files" if settings.ACCEL else "this server hands out finished files"
    yield "CADRAGE_ACCEL", settings.ACCEL, accel
    yield "CADRAGE_FOLDERS", ", ".join(settings.FOOTAGE_FOLDERS), _folders("footage is used", settings.FOOTAGE_FOLDERS)
    yield "CADRAGE_DELIVERIES", ", ".join(settings.DELIVERY_FOLDERS), _folders("results go", settings.DELIVERY_FOLDERS)
    yield "CADRAGE_UPLOAD_GB", f"{settings.UPLOAD_BYTES / 1e9:g}", "may be sent at a time"
    yield "CADRAGE_CACHE_GB", f"{settings.CACHE_BYTES / 1e9:g}", "of pictures that were shown are kept"
    each = f"{settings.QUOTA_GIGABYTES:g}" if settings.QUOTA_GIGABYTES else ""
    yield "CADRAGE_QUOTA_GB", each, "of each person's projects" if each else "as much as there is room for"
    most = f"{settings.QUOTA_RENDERS}" if settings.QUOTA_RENDERS else ""
    yield "CADRAGE_QUOTA_RENDERS", most, "of each person at a time" if most else "as many as there are workers"
    yield "CADRAGE_REDIS", settings.REDIS.rpartition("@")[2], "other machines help" if settings.REDIS else "none help"
    yield (
        "CADRAGE_GENERATOR",
        settings.GENERATOR,
        "may be asked for pictures" if settings.GENERATOR else "none is asked",
    )
    yield "CADRAGE_DEMO", "1" if settings.DEMO else "", "everybody is let in" if settings.DEMO else "people sign in"


def _folders(what: str, folders: list[str]) -> str:
    if not folders:
        return "none"
    missing = [one for one in folders if not Path(one.partition("@")[0]).is_dir()]
    return f"not there: {', '.join(missing)}" if missing else f"{what} there"
