web: python manage.py serve --port ${PORT:-8000}
worker: python manage.py work
