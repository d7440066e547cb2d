"""Static files under names that carry their hash, the imports of JavaScript modules included."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class HashedFiles(CompressedManifestStaticFilesStorage):
    """Browsers keep static files for a year, so a module that is imported must change its name when it changes."""

    support_js_module_import_aggregation = True
