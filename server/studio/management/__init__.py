"""Commands for `manage.py`."""
