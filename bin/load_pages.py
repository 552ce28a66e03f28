"""Loads one or two builds of the server and prints them side by side; called by bin/load, which starts the database.

Every loop is bounded in count or time, and everything goes to loopback.
"""

import http.client
import json
import os
import re
import statistics
import subprocess
import sys
import time
import urllib.parse
import uuid

SCRATCH, BINARIES = sys.argv[1], sys.argv[2:]
SERVER = os.environ["DATABASE_SERVER"]
EACH = int(os.environ.get("SECONDS_EACH", "5"))
PASSWORD = urllib.parse.urlparse(SERVER).password
CONNECTIONS = 32


def sql(database, text):
    port = os.environ["DB_SOCKET_PORT"]
    run = ["mariadb", "--no-defaults", "-N", "-u", "rauchkeller", "-h", "127.0.0.1", "-P", port, database]
    done = subprocess.run(run, input=text, text=True, capture_output=True, env={**os.environ, "MYSQL_PWD": PASSWORD})
    if done.returncode:
        sys.exit(done.stderr)
    return done.stdout.strip()


class Server:
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
        self.cookies = {}
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

    def send(self, method, path, body=None, kind=None):
        at = urllib.parse.urlparse(self.base)
        connection = http.client.HTTPConnection(at.hostname, at.port, timeout=60)
        headers = {"cookie": self.cookie()}
        if kind:
            headers["content-type"] = kind
        connection.request(method, path, body=body, headers=headers)
        answer = connection.getresponse()
        text = answer.read()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        connection.close()
        return answer.status, text, {k.lower(): v for k, v in answer.getheaders()}

    def cookie(self):
        return "; ".join(f"{k}={v}" for k, v in self.cookies.items() if not k.endswith("bench"))

    def form(self, path, **fields):
        return self.send("POST", path, urllib.parse.urlencode(fields), "application/x-www-form-urlencoded")

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


def load(server):
    """Every page of J12, in its order."""
    pieces = [server.keep() for _ in range(8)]
    for piece in pieces[:4]:
        server.form(f"{piece}/steps/salt/done")
    for piece in pieces[4:6]:
        server.form(f"{piece}/verdict", rim="0", middle="0", juice="0", seen="1")
    for i in range(12):
        eaten = server.keep(weight=f"{2 + i / 10:.1f} kg")
        server.form(f"{eaten}/verdict", rim="0", middle="0", juice="0", seen="0")
    figures = {}

    def measure(name, lua, path="/"):
        figures[name] = server.wrk(lua, path)

    measure("/health", "", "/health")
    measure("the Bench, the same", get(server), "/bench?cut=pork-belly&weight=2.4+kg")
    measure("the Bench, each another weight", changing(server, "/bench?cut=pork-belly&weight="))
    measure("Cellar with 8 pieces", get(server), "/cellar")
    measure("a piece", get(server), pieces[0])
    measure("in the cold", get(server), f"{pieces[0]}/chill")
    measure("the Book", get(server), "/book")
    measure("the Kit", get(server), "/kit")
    measure("ways, belly", get(server), "/bench/ways?cut=pork-belly&weight=2.4+kg")
    measure("plan API", posting(PLAN), "/api/v1/plan")
    measure("standing", get(server), f"/api/v1{pieces[0]}/standing")
    fresh = server.keep()
    # A piece takes 5,000; an append beyond them would be refused, and fast.
    global EACH
    each, EACH = EACH, min(EACH, 4)
    measure("append", appending(server, fresh))
    EACH = each
    figures["memory after it, MB"] = (server.resident_mb(), 0)
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
    # The newest build last, so that what it finds warm it made warm itself.
    loads, grown = [], []
    for binary in reversed(BINARIES):
        server = Server(binary)
        loads.insert(0, load(server))
        server.stop()
    print(f"\nrequests a second at {CONNECTIONS} connections, {EACH} s each; first column {BINARIES}")
    for name in loads[0]:
        cells = [f"{l[name][0]:10.1f}" + (f" ({l[name][1]} refused)" if l[name][1] else "") for l in loads if name in l]
        times = f"{loads[0][name][0] / loads[1][name][0]:8.2f} times" if len(loads) > 1 and loads[1][name][0] else ""
        print(f"{name:34}", *cells, times)
    for binary in reversed(BINARIES):
        server = Server(binary)
        grown.insert(0, grow(server))
        server.stop()
    print("\n200 alive, 20,000 eaten, 4,800 notes on one piece, a million readings: median and most of some asks, ms, and bytes")
    for name in grown[0]:
        print(f"{name:52}", *[f"{g[name][0]:9.1f} {g[name][1]:9.1f} {g[name][2]:8}" for g in grown if name in g])


main()
