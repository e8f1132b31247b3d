"""Addresses: the API, signing in and out, and the page for everything else."""

from django.contrib.auth.views import LogoutView, PasswordChangeView
from django.urls import path, re_path

from server.studio.api import api
from server.studio.invited import invited
from server.studio.look import look
from server.studio.metrics import metrics
from server.studio.page import page, typeface
from server.studio.sign_in import SignIn

handler500 = "server.studio.api.errors.broken"

urlpatterns = [
    path("api/", api.urls),
    path("metrics", metrics),
    path("invited/<str:token>", invited, name="invited"),
    path("look/<str:token>", look, name="look"),
    path("typeface.woff2", typeface, name="typeface"),
    path("sign-in/", SignIn.as_view(), name="sign-in"),
    path(
        "password/",
        PasswordChangeView.as_view(template_name="registration/password.html", success_url="/"),
        name="password",
    ),
    path("sign-out/", LogoutView.as_view(next_page="sign-in"), name="sign-out"),
    re_path(r"^(?!api/|assets/|static/).*$", page, name="page"),
]
