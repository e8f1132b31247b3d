"""The proxy example that ships, run: TLS, sign-in, pieces of uploads, files that the proxy hands out, playing."""

import os
import re
import shutil
import signal
import socket
import subprocess
import time
from pathlib import Path

import pytest
import requests
from tusclient.client import TusClient

from tests.application import ROOT, Application, free_port
from tests.siege.people import Person

NGINX, OPENSSL = shutil.which("nginx", path="/usr/sbin:/usr/bin"), shutil.which("openssl")
pytestmark = [
    pytest.mark.timeout(120),
    pytest.mark.skipif(not NGINX or not OPENSSL, reason="nginx is not installed"),
]
AROUND = """
daemon off;
{user}
pid {folder}/nginx.pid;
error_log {folder}/error.log;
events {{ worker_connections 256; }}
http {{
    access_log {folder}/access.log;
    client_body_temp_path {folder}/body;
    proxy_temp_path {folder}/proxy;
    fastcgi_temp_path {folder}/a; uwsgi_temp_path {folder}/b; scgi_temp_path {folder}/c;
    {example}
}}
"""
PEOPLE = """
from django.contrib.auth import get_user_model
get_user_model().objects.create_user("ida", password="a long one, said twice")
"""


def example(folder: Path, port: int, plain: int, behind: int) -> str:
    """The example with this machine's ports and folders in place of its own."""
    text = (ROOT / "deploy" / "nginx.conf").read_text()
    for own, here in (
        ("listen 443 ssl", f"listen 127.0.0.1:{port} ssl"),
        ("listen 80;", f"listen 127.0.0.1:{plain};"),
        ("http://127.0.0.1:8000", f"http://127.0.0.1:{behind}"),
        ("/etc/ssl/cadrage/fullchain.pem", f"{folder}/cert.pem"),
        ("/etc/ssl/cadrage/privkey.pem", f"{folder}/key.pem"),
        ("alias /srv/cadrage/", f"alias {folder}/data/"),
        ("cadrage.example.org", "localhost"),
    ):
        assert own in text, own
        text = text.replace(own, here)
    return text


@pytest.fixture(scope="module")
def certified():
    with pytest.MonkeyPatch.context() as patch:
        yield patch


@pytest.fixture(scope="module")
def proxied(tmp_path_factory, certified):
    """The application behind nginx with TLS; its address there, without TLS, and nginx's log."""
    folder = tmp_path_factory.mktemp("proxy")
    port, plain = free_port(), free_port()
    cert = ["-keyout", folder / "key.pem", "-out", folder / "cert.pem", "-subj", "/CN=localhost", "-days", "2"]
    cert += ["-addext", "subjectAltName=DNS:localhost"]
    certified.setenv("REQUESTS_CA_BUNDLE", str(folder / "cert.pem"))
    subprocess.run([OPENSSL, "req", "-x509", "-newkey", "rsa:2048", "-nodes", *cert], check=True, capture_output=True)
    told = {
        "CADRAGE_DEMO": "0",
        "CADRAGE_TLS": "1",
        "CADRAGE_ACCEL": "/cadrage-files/",
        "CADRAGE_HOSTS": f"localhost,127.0.0.1,localhost:{port}",
        "CADRAGE_SECRET_KEY": "only for a test" * 5,
    }
    application = Application(folder / "data", **told)
    application.prepare()
    application.manage("shell", "--verbosity", "0", "-c", PEOPLE)
    application.start_web()
    application.start_worker()
    application.wait()
    user = "user root;" if os.geteuid() == 0 else ""
    written = AROUND.format(folder=folder, user=user, example=example(folder, port, plain, application.port))
    (folder / "nginx.conf").write_text(written)
    nginx = subprocess.Popen([NGINX, "-p", folder, "-c", folder / "nginx.conf"], stderr=subprocess.DEVNULL)
    for _ in range(100):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.1)
    try:
        yield f"https://localhost:{port}", f"http://localhost:{plain}", folder / "access.log"
    finally:
        nginx.send_signal(signal.SIGTERM)
        nginx.wait(20)
        for process in (application.worker, application.web):
            process.terminate()
            process.wait(30)


@pytest.fixture(scope="module")
def ida(proxied):
    return Person(proxied[0], "ida", "a long one, said twice")


def test_plain_requests_are_sent_to_tls_and_cookies_stay_there(proxied, ida):
    answer = requests.get(f"{proxied[1]}/projects/1", allow_redirects=False, timeout=20)
    assert (answer.status_code, answer.headers["Location"]) == (301, "https://localhost/projects/1")
    assert all(cookie.secure for cookie in ida.session.cookies)
    assert "max-age" in ida.ask("GET", "/").headers["Strict-Transport-Security"]
    assert ida.get("/api/visitor")["name"] == "ida"


def test_a_file_goes_through_in_pieces_is_rendered_and_handed_out_by_the_proxy(proxied, ida, small_clip):
    project = ida.project("Behind")
    client = TusClient(
        f"{proxied[0]}/api/projects/{project}/uploads",
        headers={"X-CSRFToken": ida.token, "Referer": proxied[0], "Cookie": ida.cookies},
    )
    sent = client.uploader(
        str(small_clip),
        chunk_size=20_000,
        metadata={"filename": "small.mp4"},
    )
    sent.upload()
    number = sent.url.rstrip("/").rpartition("/")[2]
    ida.post(f"/api/projects/{project}/sent", {"uploads": [number]})
    framing = ida.framing(project)
    assert ida.preview(framing, 1).json()["picture"].startswith("data:image/jpeg;base64,")
    render = ida.rendered(project, framing["id"])
    whole = ida.ask("GET", f"/api/renders/{render}/file?download=1")
    part = ida.ask("GET", f"/api/renders/{render}/file", headers={"Range": "bytes=4-7"})
    assert whole.content[4:8] == b"ftyp" == part.content
    assert part.status_code == 206
    assert "attachment" in whole.headers["Content-Disposition"]
    assert "X-Accel-Redirect" not in whole.headers
    assert re.search(r"nginx", whole.headers["Server"])
    assert ida.ask("GET", f"/cadrage-files/renders/{render}.mp4").status_code == 404


def test_what_is_unwelcome_is_turned_away_through_the_proxy(proxied):
    answer = requests.post(f"{proxied[0]}/api/projects/1/footage", data=b"x" * 300_000, timeout=20)
    assert answer.status_code == 401
    assert answer.json()["title"] == "You are not signed in."


def test_what_is_played_comes_as_it_is_made(proxied, ida, small_clip):
    project = ida.project("Played")
    ida.add(project, small_clip)
    framing = ida.framing(project)
    design = {part: framing["plan"][part] for part in ("placement", "surround", "finish", "motion", "shots")}
    body = {"designs": [design], "time": "0", "viewer": "a", "lines": 90}
    begun = time.monotonic()
    answer = ida.ask("POST", f"/api/framings/{framing['id']}/play", json=body, stream=True)
    assert "picture" in answer.headers["Cadrage-Play"]
    pieces = answer.iter_content(1000)
    assert all(next(pieces) for _ in range(20))
    assert time.monotonic() - begun < 20
    answer.close()


def test_guesses_are_slowed_by_the_proxy_and_by_cadrage(proxied):
    answers = {requests.get(f"{proxied[0]}/sign-in/", timeout=20).status_code for _ in range(30)}
    assert answers == {200, 429}
