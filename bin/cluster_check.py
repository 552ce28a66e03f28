"""What becomes of writes on a cluster: twenty clients on two servers, six who take back one change, a node killed under writes.

    python3 bin/cluster_check.py SERVER1 SERVER2 PID_OF_NODE_2

Only Python's standard library; every loop is bounded. Ends with 1 where an answered write is missing or anything was a 500.
"""

import json
import os
import signal
import sys
import threading
import time
import uuid
from collections import Counter

from rk_client import Client

ONE, TWO, NODE = sys.argv[1], sys.argv[2], int(sys.argv[3])
STATUSES = Counter()


class Noting(Client):
    """A cook whose answers are counted."""

    def __init__(self, base):
        super().__init__(base, patience=15)

    def send(self, *what):
        answer = super().send(*what)
        STATUSES[answer[0]] += 1
        return answer

    def note(self, piece, events):
        return self.send("POST", f"/api/v1{piece}/events", json.dumps({"events": events}), "application/json")


def moment(ago=0.0):
    at = time.time() - ago
    return time.strftime("%Y-%m-%dT%H:%M:%S", time.gmtime(at)) + f".{int(at % 1 * 1e6):06d}Z"


def felt():
    return {"id": str(uuid.uuid4()), "at": moment(), "what": "felt", "feel": "dry"}


def noted(client, piece):
    status, text, _ = client.send("GET", f"{piece}/record.json")
    assert status == 200, status
    return json.loads(text)["events"]


def eventually(what, check, patience=60):
    until = time.monotonic() + patience
    while time.monotonic() < until:
        found = check()
        if found:
            return found
        time.sleep(0.2)
    sys.exit(f"never came true: {what}")


def all_there(client, piece, ids):
    """Ids that are not there just once, after the nodes had time to apply what they had taken."""
    wrong = ids
    for _ in range(60):
        there = Counter(e["id"] for e in noted(client, piece))
        wrong = [i for i in ids if there[i] != 1]
        if not wrong:
            break
        time.sleep(0.25)
    return wrong


def twice(client):
    other = Noting(TWO)
    other.cookies = client.cookies
    return other


cook = Noting(ONE)


def signs_up():
    address = f"{uuid.uuid4().hex}@example.org"
    status, _, _ = cook.form("/sign-up", household="Cluster", name="Cook", address=address, password="a long enough one", time_zone="UTC")
    return status == 303


eventually("sign-up", signs_up)
eventually("both servers answer", lambda: cook.send("GET", "/cellar")[0] == 200 and twice(cook).send("GET", "/cellar")[0] == 200)


def keep():
    status, _, headers = cook.form("/pieces", cut="pork-belly", weight="2.4 kg", thick="45 mm", key=str(uuid.uuid4()))
    assert status == 303, status
    return headers["location"]


failures = []
STATUSES.clear()

# 1. Two hundred batches of twenty by twenty clients on two servers, all on one piece.
piece = keep()
sent, lock, took = [], threading.Lock(), []


def batches(n):
    client = cook if n % 2 == 0 else twice(cook)
    for _ in range(10):
        events = [felt() for _ in range(20)]
        begun = time.monotonic()
        status, text, _ = client.note(piece, events)
        with lock:
            took.append(time.monotonic() - begun)
            if status == 200:
                sent.extend(e["id"] for e in events)
            else:
                failures.append(f"batch refused: {status} {text[:160]}")


hands = [threading.Thread(target=batches, args=(n,)) for n in range(20)]
[hand.start() for hand in hands]
[hand.join() for hand in hands]
missing = all_there(cook, piece, sent)
took.sort()
print(f"200 batches of 20 by 20 clients on two servers: {len(sent)} of 4000 answered, {len(missing)} missing or doubled, "
      f"median {took[len(took) // 2]:.3f} s, slowest {took[-1]:.3f} s")
if missing or len(sent) != 4000:
    failures.append(f"{len(missing)} missing, {len(sent)} answered")

# 2. Six at once take one change back.
for round_ in range(10):
    piece = keep()
    status, text, headers = cook.form(f"{piece}/plan", weight="2.6 kg", cut="pork-belly", thick="45 mm", key=str(uuid.uuid4()), seen="1", version="1")
    answers = []

    def back(n):
        client = cook if n % 2 == 0 else twice(cook)
        status, _, _ = client.form(f"{piece}/plan/back")
        with lock:
            answers.append(status)

    hands = [threading.Thread(target=back, args=(n,)) for n in range(6)]
    [hand.start() for hand in hands]
    [hand.join() for hand in hands]
    if any(status >= 500 for status in answers):
        failures.append(f"taken back by six: {answers}")
print("one change taken back by six at once, ten times: no 5xx" if not any("six" in f for f in failures) else "taken back by six: failed")

# 3. A node killed under writes: nothing that was answered is lost.
piece = keep()
answered, stop = [], threading.Event()


def writes(n):
    client = cook if n % 2 == 0 else twice(cook)
    for _ in range(200):
        if stop.is_set():
            return
        event = felt()
        try:
            status, _, _ = client.note(piece, [event])
        except OSError:
            continue
        if status == 200:
            with lock:
                answered.append(event["id"])


hands = [threading.Thread(target=writes, args=(n,)) for n in range(8)]
[hand.start() for hand in hands]
eventually("some are answered", lambda: len(answered) >= 100)
os.kill(NODE, signal.SIGKILL)
eventually("the other server goes on", lambda: len(answered) >= 300)
stop.set()
[hand.join() for hand in hands]
lost = all_there(cook, piece, answered)
print(f"a node killed under writes: {len(answered)} answered, {len(lost)} lost or doubled; the server on the other node went on")
if lost:
    failures.append(f"{len(lost)} lost")
print("statuses:", dict(sorted(STATUSES.items())))
if STATUSES.get(500):
    failures.append(f"{STATUSES[500]} times 500")
print("\n".join(failures) if failures else "all as it should be")
sys.exit(1 if failures else 0)
