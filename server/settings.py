"""Settings, from the environment where an installation differs.

CADRAGE_DATA           folder for the database, footage and results; default `var` beside this project
CADRAGE_MEDIA          folder for footage and results, where it is another: one that several machines share
CADRAGE_REDIS          address of a Redis server, through which workers on other machines take parts of renders
CADRAGE_DELIVERIES     folders that results may be written to, in the same form; default none
CADRAGE_CACHE_GB       how much is kept of pictures that were shown, in gigabytes; default 2
CADRAGE_PART_SECONDS   how long the parts are that a render is cut into; default 8
CADRAGE_HOSTS          names the server answers to, separated by commas; default this machine only
CADRAGE_UPLOAD_GB      how much may be sent at a time, in gigabytes; default 200
CADRAGE_QUOTA_GB       how much each person's projects may hold, in gigabytes; default as much as there is
CADRAGE_QUOTA_RENDERS  how many renders of each person are made at a time; default as many as there are workers
CADRAGE_TLS            1 where a proxy with TLS stands before the server
CADRAGE_PROXY          address of a proxy whose word is taken for who asks; default 127.0.0.1 with TLS
CADRAGE_ACCEL          path under which a proxy hands out files itself when it is told to; default none
CADRAGE_LOG            json for logs that machines read; default lines
CADRAGE_LOG_LEVEL      from which gravity on Cadrage tells things; default INFO
CADRAGE_METRICS_TOKEN  with which /metrics is read by who is not signed in; default none
CADRAGE_DEMO           1 signs visitors on this machine in to the demonstration account
CADRAGE_FOLDERS        folders whose footage may be used where it lies, separated by colons; default none;
                       /srv/news@desk is for a person or a group of that name only
CADRAGE_GENERATOR      address of an outside generator of pictures, see docs/extension.md; default none
CADRAGE_GENERATOR_SECONDS  how long its answer is waited for; default 300
CADRAGE_SECRET_KEY     secret of the sessions; default one made at the first start and kept in the data folder
"""

import os
import secrets
from pathlib import Path

BASE_DIR = Path(__file__).resolve().parent.parent
DATA_DIR = Path(os.environ.get("CADRAGE_DATA", BASE_DIR / "var")).resolve()
MEDIA_DIR = Path(os.environ.get("CADRAGE_MEDIA", DATA_DIR)).resolve()
FOOTAGE_DIR = MEDIA_DIR / "footage"
RENDERS_DIR = MEDIA_DIR / "renders"
CACHE_DIR = DATA_DIR / "cache"
INCOMING_DIR = MEDIA_DIR / "incoming"
ANALYSES_DIR = MEDIA_DIR / "analyses"
WEB_DIR = BASE_DIR / "web" / "dist"
if not DATA_DIR.exists():
    DATA_DIR.mkdir(parents=True, mode=0o700)  # whoever else has an account on the machine has no business in it
for folder in (DATA_DIR, FOOTAGE_DIR, RENDERS_DIR, CACHE_DIR, INCOMING_DIR, ANALYSES_DIR):
    folder.mkdir(parents=True, exist_ok=True)


FOOTAGE_FOLDERS = [folder for folder in os.environ.get("CADRAGE_FOLDERS", "").split(os.pathsep) if folder]
DELIVERY_FOLDERS = [folder for folder in os.environ.get("CADRAGE_DELIVERIES", "").split(os.pathsep) if folder]
REDIS = os.environ.get("CADRAGE_REDIS", "")
CACHE_BYTES = round(float(os.environ.get("CADRAGE_CACHE_GB", "2")) * 1e9)
UPLOAD_BYTES = round(float(os.environ.get("CADRAGE_UPLOAD_GB", "200")) * 1e9)
QUOTA_GIGABYTES = float(os.environ.get("CADRAGE_QUOTA_GB", "0"))
QUOTA_RENDERS = int(os.environ.get("CADRAGE_QUOTA_RENDERS", "0"))
PART_SECONDS = float(os.environ.get("CADRAGE_PART_SECONDS", "8"))
METRICS_TOKEN = os.environ.get("CADRAGE_METRICS_TOKEN", "")
ACCEL = os.environ.get("CADRAGE_ACCEL", "")
DEMO = os.environ.get("CADRAGE_DEMO") == "1"
DEMO_USER = "museum"
GENERATOR = os.environ.get("CADRAGE_GENERATOR", "")
GENERATOR_SECONDS = float(os.environ.get("CADRAGE_GENERATOR_SECONDS", "300"))


def _secret() -> str:
    kept = DATA_DIR / "secret"
    if not kept.exists():
        kept.touch(mode=0o600)
        kept.write_text(secrets.token_urlsafe(50))
    return kept.read_text()


SECRET_KEY = os.environ.get("CADRAGE_SECRET_KEY") or _secret()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("CADRAGE_HOSTS", "localhost,127.0.0.1,[::1]").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django_tasks",
    "django_tasks_db",
    "ninja",  # its browser of the API comes with it
    "server.studio.apps.Studio",
]
MIDDLEWARE = [
    "server.studio.health.HeadersOnly",
    "server.studio.health.HealthChecks",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "server.studio.door.DemonstrationDoor",
    "server.studio.asking.Asking",
    "server.studio.logs.Log",
    "server.studio.metrics.Measure",
    "server.studio.guard.Guard",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "cadrage.sqlite3",
        "CONN_MAX_AGE": None,  # opening it anew takes longer than most of what is asked
        "OPTIONS": {
            # Readers never wait for the writer, and a writer that meets another waits its turn.
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
            "transaction_mode": "IMMEDIATE",
            "timeout": 30,
        },
        "TEST": {"NAME": DATA_DIR / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["default", "parts"]}}
PARTS_BACKEND = "default"
if REDIS:
    # Parts of renders go through Redis; what needs the database stays on the machine that has it.
    INSTALLED_APPS += ["django_rq"]
    TASKS["parts"] = {"BACKEND": "django_tasks_rq.RQBackend", "QUEUES": ["parts"]}
    RQ_QUEUES = {name: {"URL": REDIS} for name in ("default", "parts")}
    PARTS_BACKEND = "parts"

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
        "NumericPasswordValidator",
    )
]
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SECURE_REFERRER_POLICY = "same-origin"
TLS = os.environ.get("CADRAGE_TLS") == "1"
PROXY = os.environ.get("CADRAGE_PROXY", "127.0.0.1" if TLS else "")
# Also where a proxy forgets to say that it was spoken to over TLS, its pages may sign people in.
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS if host != "*"]
if TLS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_SSL_REDIRECT = SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = True
    SECURE_REDIRECT_EXEMPT = [r"^healthz$", r"^readyz$"]

USE_TZ = True
TIME_ZONE = "UTC"
LOGIN_URL = "sign-in"
LOGIN_REDIRECT_URL = "/"
STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIR if WEB_DIR.exists() else None
WHITENOISE_USE_FINDERS = True
# What the build names by its content never changes.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"

# Uploads go to disk as they arrive, in the folder they stay in, so that accepting one is a rename.
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
FILE_UPLOAD_TEMP_DIR = INCOMING_DIR
DATA_UPLOAD_MAX_NUMBER_FILES = 20_000  # stills of a sequence

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"who": {"()": "server.studio.logs.Who"}},
    "formatters": {
        "lines": {"format": "%(asctime)s %(levelname)s %(person)s %(message)s", "datefmt": "%Y-%m-%d %H:%M:%S"},
        "json": {"()": "server.studio.logs.AsJson"},
    },
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "filters": ["who"],
            "formatter": "json" if os.environ.get("CADRAGE_LOG") == "json" else "lines",
        }
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"server": {"level": os.environ.get("CADRAGE_LOG_LEVEL", "INFO")}},
}
