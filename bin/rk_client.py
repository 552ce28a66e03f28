"""A cook without a browser, for the scripts of this folder: only Python's standard library."""

import http.client
import urllib.parse


class Client:
    """One cook: a connection a request, and the cookies they were given."""

    def __init__(self, base, patience=60):
        self.at = urllib.parse.urlparse(base)
        self.patience = patience
        self.cookies = {}

    def cookie(self):
        # What the Bench remembers of its last sentence is left out: each request says its own.
        return "; ".join(f"{k}={v}" for k, v in self.cookies.items() if not k.endswith("bench"))

    def send(self, method, path, body=None, kind=None):
        """Status, body, headers in lower case."""
        connection = http.client.HTTPConnection(self.at.hostname, self.at.port, timeout=self.patience)
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

    def form(self, path, **fields):
        return self.send("POST", path, urllib.parse.urlencode(fields), "application/x-www-form-urlencoded")
