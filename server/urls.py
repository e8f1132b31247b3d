"""Addresses: the API, signing in and out, and the page for everything else."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path, re_path

from server.studio.api import api
from server.studio.page import page

urlpatterns = [
    path("api/", api.urls),
    path("sign-in/", LoginView.as_view(), name="sign-in"),
    path("sign-out/", LogoutView.as_view(next_page="sign-in"), name="sign-out"),
    re_path(r"^(?!assets/|static/).*$", page, name="page"),
]
