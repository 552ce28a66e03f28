"""Loads one or two builds of the server and prints them side by side; called by bin/load, which starts the database.

Every loop is bounded in count or time, and everything goes to loopback.
"""

import json
import os
import re
import statistics
import subprocess
import sys
import time
import urllib.parse
import uuid

from rk_client import Client

SCRATCH, BINARIES = sys.argv[1], sys.argv[2:]
SERVER = os.environ["DATABASE_SERVER"]
EACH = int(os.environ.get("SECONDS_EACH", "3"))
ROUNDS = int(os.environ.get("ROUNDS", "4"))
PASSWORD = urllib.parse.urlparse(SERVER).password
CONNECTIONS = 32


def sql(database, text):
    port = os.environ["DB_SOCKET_PORT"]
    run = ["mariadb", "--no-defaults", "-N", "-u", "rauchkeller", "-h", "127.0.0.1", "-P", port, database]
    done = subprocess.run(run, input=text, text=True, capture_output=True, env={**os.environ, "MYSQL_PWD": PASSWORD})
    if done.returncode:
        sys.exit(done.stderr)
    return done.stdout.strip()


class Server(Client):
    """A build, serving on a database of its own, with a cook who has signed up."""

    def __init__(self, binary):
        self.database = f"rauchkeller_load_{uuid.uuid4().hex[:12]}"
        sql("rauchkeller", f"CREATE DATABASE {self.database} CHARACTER SET utf8mb4")
        url_file = f"{SCRATCH}/{self.database}.url"
        env = {**os.environ, "DATABASE_URL": f"{SERVER}/{self.database}", "RUST_LOG": "error"}
        serve = [binary, "serve", "--listen", "127.0.0.1:0", "--flood-limit", "0", "--url-file", url_file]
        self.process = subprocess.Popen(serve, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        for _ in range(600):
            if os.path.exists(url_file) and open(url_file).read():
                break
            time.sleep(0.05)
        self.base = open(url_file).read()
        super().__init__(self.base)
        form = dict(household="Load", name="Cook", address=f"{uuid.uuid4().hex}@example.org", password="a long enough one", time_zone="UTC")
        for _ in range(100):
            if self.form("/sign-up", **form)[0] == 303:
                break
            form["address"] = f"{uuid.uuid4().hex}@example.org"
            time.sleep(0.2)
        for _ in range(100):
            if self.send("GET", "/kit")[0] == 200 and self.send("GET", "/cellar")[0] == 200:
                break
            time.sleep(0.2)
        time.sleep(2)

    def keep(self, cut="pork-belly", weight="2.4 kg"):
        status, text, headers = self.form("/pieces", cut=cut, weight=weight, key=str(uuid.uuid4()))
        assert status == 303, (status, text[:300])
        return headers["location"]

    def wrk(self, lua, path):
        """Requests a second, and answers that were none of 2xx and 3xx."""
        script = f"{SCRATCH}/{uuid.uuid4().hex}.lua"
        with open(script, "w") as file:
            file.write(lua)
        run = ["wrk", "-t", "1", "-c", str(CONNECTIONS), "-d", f"{EACH}s", "-s", script, self.base + path]
        said = subprocess.run(run, text=True, capture_output=True).stdout
        rate = re.search(r"Requests/sec:\s+([\d.]+)", said)
        bad = re.search(r"Non-2xx or 3xx responses: (\d+)", said)
        return float(rate.group(1)) if rate else 0.0, int(bad.group(1)) if bad else 0

    def resident_mb(self):
        for line in open(f"/proc/{self.process.pid}/status"):
            if line.startswith("VmRSS"):
                return int(line.split()[1]) / 1024

    def stop(self):
        self.process.terminate()
        self.process.wait(30)


def get(server):
    return f'wrk.headers["cookie"] = "{server.cookie()}"'


def changing(server, path):
    """Each request another weight, as a cook who types."""
    return get(server) + f'\nlocal n = 0\nrequest = function() n = n + 1; return wrk.format("GET", "{path}" .. (1500 + n % 3000) .. "+g") end'


def posting(body):
    return f"wrk.method = 'POST'\nwrk.headers['content-type'] = 'application/json'\nwrk.body = [[{body}]]"


def appending(server, piece):
    """One new event a request."""
    return get(server) + f"""
wrk.method = 'POST'
wrk.headers['content-type'] = 'application/json'
math.randomseed(os.time())
local n = 0
local run = math.random(0, 0xffff)
request = function()
  n = n + 1
  local id = string.format("0192f0c1-%04x-7000-8000-%04x%08x", n % 0xffff, run, n)
  local body = '{{"events":[{{"id":"' .. id .. '","at":"' .. os.date("!%Y-%m-%dT%H:%M:%SZ") .. '","what":"core-read","core_c":54.2}}]}}'
  return wrk.format("POST", "/api/v1{piece}/events", nil, body)
end"""


PLAN = json.dumps({"piece": {"cut": "pork-belly", "weight_g": 2400, "salt_thickness_mm": 45}})


def pages(server):
    """Every page of a kitchen with some pieces: a name, and what to ask it by."""
    pieces = [server.keep() for _ in range(8)]
    for piece in pieces[:4]:
        server.form(f"{piece}/steps/salt/done")
    for piece in pieces[4:6]:
        server.form(f"{piece}/verdict", rim="0", middle="0", juice="0", seen="1")
    for i in range(12):
        eaten = server.keep(weight=f"{2 + i / 10:.1f} kg")
        server.form(f"{eaten}/verdict", rim="0", middle="0", juice="0", seen="0")
    return {
        "/health": lambda: ("", "/health"),
        "the Bench, the same": lambda: (get(server), "/bench?cut=pork-belly&weight=2.4+kg"),
        "the Bench, each another weight": lambda: (changing(server, "/bench?cut=pork-belly&weight="), "/"),
        "Cellar with 8 pieces": lambda: (get(server), "/cellar"),
        "a piece": lambda: (get(server), pieces[0]),
        "in the cold": lambda: (get(server), f"{pieces[0]}/chill"),
        "the Book": lambda: (get(server), "/book"),
        "the Kit": lambda: (get(server), "/kit"),
        "ways, belly": lambda: (get(server), "/bench/ways?cut=pork-belly&weight=2.4+kg"),
        "plan API": lambda: (posting(PLAN), "/api/v1/plan"),
        "standing": lambda: (get(server), f"/api/v1{pieces[0]}/standing"),
        # Each time to another piece: one takes 5,000, and what is beyond is refused, and fast.
        "append": lambda: (appending(server, server.keep()), "/"),
    }


def load(servers):
    """Requests a second of each page, the servers by turns and each first as often as the other: machines have their moods."""
    asks = [pages(server) for server in servers]
    for server, ask in zip(servers, asks):
        server.wrk(*ask["the Bench, the same"]())
    figures = []
    for name in asks[0]:
        rates = [[] for _ in servers]
        refused = [0 for _ in servers]
        for n in range(ROUNDS):
            order = range(len(servers)) if n % 2 == 0 else reversed(range(len(servers)))
            for i in order:
                rate, bad = servers[i].wrk(*asks[i][name]())
                rates[i].append(rate)
                refused[i] += bad
        figures.append((name, [statistics.mean(r) for r in rates], refused))
    return figures


def grow(server):
    """200 pieces alive, 20,000 eaten, 4,800 notes on one, a million readings: what each page of that kitchen takes."""
    piece = server.keep()
    full = server.keep()
    database = server.database
    has_count = sql(database, "SELECT COUNT(*) FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = 'pieces' AND column_name = 'events'") == "1"
    mine = f"(SELECT id FROM pieces WHERE LOWER(HEX(id)) = '{piece.split('/')[-1].replace('-', '')}')"
    columns = "household_id, name, cut, schema_no, request, plan, version, serve_at, created_at, plan_version, rules, last_task"
    fill = f"""
SET SESSION unique_checks = 0;
INSERT INTO pieces (id, form_key, finished_at, {columns})
  SELECT UNHEX(REPLACE(UUID(), '-', '')), CONCAT('alive ', seq), NULL, household_id, CONCAT('Belly ', seq), cut, schema_no, request, plan, 1,
    serve_at + INTERVAL seq HOUR, created_at, 1, rules, last_task FROM pieces JOIN seq_1_to_198 WHERE id = {mine};
INSERT INTO pieces (id, form_key, finished_at, {columns})
  SELECT UNHEX(REPLACE(UUID(), '-', '')), CONCAT('eaten ', seq), NOW(6) - INTERVAL seq HOUR, household_id, CONCAT('Eaten ', seq), cut, schema_no,
    request, plan, 1, serve_at, created_at, 1, rules, last_task FROM pieces JOIN seq_1_to_20000 WHERE id = {mine};
INSERT INTO plan_versions (piece_id, version, household_id, schema_no, rules, request, plan, serve_at, made_at)
  SELECT id, 1, household_id, schema_no, rules, '', '', serve_at, created_at FROM pieces WHERE form_key LIKE 'eaten %' OR form_key LIKE 'alive %';
INSERT INTO events (household_id, id, piece_id, kind, at, noted_at, body, live)
  SELECT household_id, UNHEX(REPLACE(UUID(), '-', '')), id, 'tasted', finished_at, finished_at,
    '{{"rim":0,"middle":0,"juice":0,"bad_patches":0,"advice":"as it was"}}', 1 FROM pieces WHERE form_key LIKE 'eaten %';
INSERT INTO events (household_id, id, piece_id, kind, at, noted_at, body, live)
  SELECT household_id, UNHEX(REPLACE(UUID(), '-', '')), id, 'felt', NOW(6) - INTERVAL seq SECOND, NOW(6), '{{"feel":"tacky"}}', 1
  FROM pieces JOIN seq_1_to_4800 WHERE LOWER(HEX(id)) = '{full.split('/')[-1].replace('-', '')}';
INSERT INTO devices (id, household_id, kind, name, token_hash, step_g, capacity_g, created_at)
  SELECT UNHEX(REPLACE(UUID(), '-', '')), id, 'scale', 'Old scale', SHA2(UUID(), 256), 0.1, 5000, NOW(6) FROM households LIMIT 1;
INSERT INTO readings (device_id, seq, household_id, at, received_at, mass_g)
  SELECT d.id, seq, d.household_id, NOW(6) - INTERVAL seq SECOND, NOW(6) - INTERVAL 20 MINUTE - INTERVAL seq MICROSECOND, 100 + seq % 50
  FROM devices d JOIN seq_1_to_1000000 LIMIT 1000000;
"""
    if has_count:
        fill += "UPDATE pieces p JOIN (SELECT piece_id, COUNT(*) AS n FROM events GROUP BY piece_id) e ON e.piece_id = p.id SET p.events = e.n;\n"
    fill += "ANALYZE TABLE pieces, events, readings;\n"
    sql(database, fill)
    figures = {}

    def timed(name, ask, times=15):
        took = []
        size = 0
        for _ in range(times):
            begun = time.perf_counter()
            status, text, _ = ask()
            took.append((time.perf_counter() - begun) * 1000)
            size = len(text)
            assert status in (200, 303, 409), (name, status, text[:300])
        figures[name] = (statistics.median(took[2:]), max(took[2:]), size)

    for path in ["/cellar", "/cellar/all", "/knife", "/salt", "/chill", "/book", "/book?find=Eaten+777", "/kit", "/refrigerator", "/taken-out",
                 "/household", "/bench?cut=pork-belly&weight=2.4+kg", "/bench?cut=pork-belly&weight=2.4+kg&dose=9+g%2Fkg", piece, full,
                 f"{full}/chill", f"{full}/hands", f"{full}/salt", f"{full}/knife", f"/api/v1{full}/standing"]:
        if path == "/cellar/all" and not has_count:
            continue
        timed(path.replace(piece, "a piece").replace(full, "the full piece"), lambda: server.send("GET", path))
    server.form(f"{full}/steps/salt/done")
    timed("a weigh-in", lambda: server.form(f"{full}/chill/weighed", gross="3100 g", tray="none", key=str(uuid.uuid4())), 10)
    ticks = iter(["lay-out", "dry", "pierce", "wash", "chill", "temper", "preheat", "roast", "grill", "rest", "carve", "serve"])
    timed("a tick", lambda: server.form(f"{full}/steps/{next(ticks)}/done"), 8)
    return figures


def main():
    servers = [Server(binary) for binary in BINARIES]
    figures = load(servers)
    figures.append(("memory after it, MB", [server.resident_mb() for server in servers], [0 for _ in servers]))
    for server in servers:
        server.stop()
    print(f"\nrequests a second at {CONNECTIONS} connections, the mean of {ROUNDS} times {EACH} s; first column {BINARIES}")
    for name, rates, refused in figures:
        cells = [f"{rate:10.1f}" + (f" ({bad} refused)" if bad else "") for rate, bad in zip(rates, refused)]
        times = f"{rates[0] / rates[1]:8.2f} times" if len(rates) > 1 and rates[1] else ""
        print(f"{name:34}", *cells, times)
    grown = []
    # The newest build last, so that what it finds warm it made warm itself.
    for binary in reversed(BINARIES):
        server = Server(binary)
        grown.insert(0, grow(server))
        server.stop()
    print("\n200 alive, 20,000 eaten, 4,800 notes on one piece, a million readings: median and most of some asks, ms, and bytes")
    for name in grown[0]:
        print(f"{name:52}", *[f"{g[name][0]:9.1f} {g[name][1]:9.1f} {g[name][2]:8}" for g in grown if name in g])


main()
