web: gunicorn server.wsgi --workers 1 --threads 12 --timeout 600 --no-control-socket --bind 127.0.0.1:${PORT:-8000}
worker: python manage.py work
