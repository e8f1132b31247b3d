"""A small simulated generator, for the demonstration and for tests: it speaks the contract of docs/extension.md, and
what it paints is the still's own edges, softened. Words in the prompt make it slow, let it fail, or send what nobody
wants: "slow", "failing", "wrong size", "rubbish".
"""

import base64
import json
import secrets
import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from io import BytesIO
from typing import Any

from PIL import Image, ImageFilter

QUICK, SLOW = 0.4, 6.0
MOST_BODY = 300 * 2**20
MOST_JOBS = 50


class Job:
    """What was asked, and when."""

    def __init__(self, asked: dict[str, Any]) -> None:
        self.still = base64.b64decode(asked["still"])
        self.mask = base64.b64decode(asked["mask"])
        self.prompt, self.count = str(asked.get("prompt", "")), int(asked.get("variants", 1))
        self.begun = time.monotonic()

    @property
    def share(self) -> float:
        """How much is done, 0 to 1."""
        return min(1.0, (time.monotonic() - self.begun) / (SLOW if "slow" in self.prompt else QUICK))

    def standing(self) -> dict[str, Any]:
        """How far it is."""
        if "failing" in self.prompt:
            return {"state": "failed", "percent": 0, "problem": "it was asked to", "variants": 0}
        done = self.share >= 1
        return {
            "state": "done" if done else "running",
            "percent": round(100 * self.share),
            "variants": self.count if done else 0,
        }

    def picture(self, number: int) -> bytes:
        """One of its pictures."""
        if "rubbish" in self.prompt:
            return b"no picture at all"
        still = Image.open(BytesIO(self.still)).convert("RGBA")
        painted = _painted(still, number)
        if "wrong size" in self.prompt:
            painted = painted.resize((painted.height, painted.height))
        data = BytesIO()
        painted.save(data, "PNG")
        return data.getvalue()


def _painted(still: Image.Image, number: int) -> Image.Image:
    """The picture blurred outward again and again until nothing is clear any more, then the picture over it."""
    ground = Image.new("RGBA", still.size, (0, 0, 0, 0))
    for step in range(9):
        radius = 3 * 2**step * (1 + 0.2 * number)
        small = still.reduce(max(1, 2 ** max(0, step - 2)))
        soft = small.filter(ImageFilter.GaussianBlur(radius / max(1, 2 ** max(0, step - 2)))).resize(still.size)
        ground = Image.alpha_composite(_opaque(soft), ground) if step else soft
    over = Image.alpha_composite(_opaque(ground), still)
    return over.convert("RGB")


def _opaque(image: Image.Image) -> Image.Image:
    """Colours as they are, wherever there is any."""
    alpha = image.getchannel("A").point(lambda value: 255 if value > 2 else 0)
    flat = image.copy()
    flat.putalpha(alpha)
    return flat


class Answer(BaseHTTPRequestHandler):
    """Speaks the contract."""

    server: "Generator"

    def log_message(self, *_: object) -> None:
        """Nothing."""

    def do_POST(self) -> None:
        """Take a job."""
        length = int(self.headers.get("Content-Length", 0))
        if self.path != "/jobs" or not 0 < length <= MOST_BODY:
            self._say(400, {"problem": "no job"})
            return
        self._say(202, {"id": self.server.keep(Job(json.loads(self.rfile.read(length))))})

    def do_GET(self) -> None:
        """Say how far one is, or give a picture."""
        parts = self.path.strip("/").split("/")
        job = self.server.jobs.get(parts[1]) if len(parts) > 1 and parts[0] == "jobs" else None
        if job is None:
            self._say(404, {"problem": "no such job"})
        elif len(parts) == 2:
            self._say(200, job.standing())
        else:
            self._send(200, "image/png", job.picture(int(parts[3])))

    def do_DELETE(self) -> None:
        """Forget one."""
        self.server.jobs.pop(self.path.rpartition("/")[2], None)
        self._send(204, "application/json", b"")

    def _say(self, status: int, what: dict[str, Any]) -> None:
        self._send(status, "application/json", json.dumps(what).encode())

    def _send(self, status: int, kind: str, data: bytes) -> None:
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)


class Generator(ThreadingHTTPServer):
    """A generator that answers at an address once it is told to serve."""

    daemon_threads = True

    def __init__(self, address: tuple[str, int]) -> None:
        super().__init__(address, Answer)
        self.jobs: dict[str, Job] = {}
        self._lock = threading.Lock()

    def keep(self, job: Job) -> str:
        """Take a job; its name."""
        name = secrets.token_hex(8)
        with self._lock:
            self.jobs[name] = job
            while len(self.jobs) > MOST_JOBS:
                self.jobs.pop(next(iter(self.jobs)))
        return name
