"""Django settings, for local use (loopback, one person) and hosted use (sign-in); see config.py for the variables."""

from datetime import timedelta

from csp.constants import NONE, SELF

from dimgrey.site.config import ROOT, make_private, read_config

CONFIG = read_config()
BASE_DIR = ROOT
DEBUG = False
SECRET_KEY = CONFIG.secret_key
ALLOWED_HOSTS = CONFIG.hosts
DIMGREY_LOCAL = CONFIG.local
DIMGREY_LAN = CONFIG.lan
DIMGREY_DATA = CONFIG.data
make_private(DIMGREY_DATA)

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "csp",
    "axes",
    "django_tasks",
    "django_tasks_db",
    "dimgrey.web",
    "dimgrey.people",
    "dimgrey.pictures",
    "dimgrey.outings",
    "dimgrey.kit",
    "dimgrey.scenes",
    "dimgrey.paper",
    "dimgrey.frames",
    "dimgrey.results",
    "dimgrey.finishing",
    "dimgrey.judging.pick",
    "dimgrey.judging.studies",
    "dimgrey.practice",
    "dimgrey.lamps",
    "dimgrey.book",
    "dimgrey.camera",
    "dimgrey.outings.day",
    "dimgrey.judging.secondlook",
    "dimgrey.field",
    "dimgrey.safekeeping.archive",
    "dimgrey.safekeeping",
    "dimgrey.site",
]

MIDDLEWARE = [
    "dimgrey.web.headers.HeadWithoutBody",
    "dimgrey.web.requestlog.RequestLog",
    "django.middleware.security.SecurityMiddleware",
    "dimgrey.web.limits.UploadLimit",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "dimgrey.web.headers.FreshPages",
    "dimgrey.web.compression.ZippedText",
    "dimgrey.web.headers.SecureCookies",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "dimgrey.people.middleware.LocalPersonMiddleware",
    "dimgrey.people.middleware.SignInFirst",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "dimgrey.site.urls"
WSGI_APPLICATION = "dimgrey.site.wsgi.application"
AUTH_USER_MODEL = "people.Person"
LOGIN_URL = "sign-in"
LOGIN_REDIRECT_URL = "home"
LOGOUT_REDIRECT_URL = "sign-in"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "OPTIONS": {
            "builtins": [
                "django.templatetags.static",
                "django.templatetags.tz",
                "dimgrey.web.templatetags.dimgrey",
                "dimgrey.people.templatetags.removal",
            ],
            "loaders": [("django.template.loaders.cached.Loader", ["dimgrey.web.loader.TrimmedLoader"])],
            "context_processors": [
                "django.template.context_processors.request",
                "dimgrey.people.look.look_of_request",
            ],
        },
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DIMGREY_DATA / "dimgrey.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
        "CONN_MAX_AGE": None,
    }
}

# Pictures are read by a process of their own: manage.py read_arrivals.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
# Five wrong passwords for one name from one address, and both wait a quarter of an hour; fifty from wherever, and the name does.
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = "dimgrey.people.throttle.slowed_by"
AXES_LOCKOUT_CALLABLE = "dimgrey.people.account_views.locked"
AXES_CLIENT_IP_CALLABLE = "dimgrey.people.middleware.address_of"
AXES_RESET_ON_SUCCESS = True
AXES_ENABLE_ADMIN = AXES_VERBOSE = AXES_ENABLE_ACCESS_FAILURE_LOG = False
AXES_DISABLE_ACCESS_LOG = True
PASSWORD_RESET_TIMEOUT = 2 * 24 * 3600
DIMGREY_MAIL = CONFIG.mail
DIMGREY_QUOTA_MB = CONFIG.quota_mb
globals().update(CONFIG.mail)

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True
USE_I18N = False

STATIC_URL = "static/"
STATIC_ROOT = DIMGREY_DATA / "static"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "dimgrey.site.storage.HashedFiles"},
}
WHITENOISE_MAX_AGE = 31536000

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "data:", "blob:"],
        "object-src": [NONE],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
if not DIMGREY_LOCAL:
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_SSL_REDIRECT = True
    SECURE_REDIRECT_EXEMPT = [r"^health$"]
    SECURE_HSTS_SECONDS = 31536000
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = True

DATA_UPLOAD_MAX_MEMORY_SIZE = 2_500_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 2_500_000

DIMGREY_MOST_UPLOADED = 420_000_000

_where = {"class": "logging.StreamHandler"}
if CONFIG.log:
    _where = {"class": "logging.handlers.WatchedFileHandler", "filename": CONFIG.log}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"about": {"()": "dimgrey.web.requestlog.AboutRequest"}},
    "formatters": {"lines": {"()": "dimgrey.web.requestlog.Lines"}},
    "handlers": {"told": {**_where, "filters": ["about"], **({} if DIMGREY_LOCAL else {"formatter": "lines"})}},
    "root": {"handlers": ["told"], "level": "WARNING"},
    "loggers": {"dimgrey": {"level": "WARNING" if DIMGREY_LOCAL else "INFO"}},
}
