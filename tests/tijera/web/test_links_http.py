"""Links over HTTP: off until set up, a port of their own, and nothing of the application behind it."""

import socket
import unittest

import httpx

from tests.support.pictures import encoded, text_like
from tests.tijera.web.test_http import HttpCase


def _free_port() -> int:
    with socket.socket() as asked:
        asked.bind(("127.0.0.1", 0))
        return int(asked.getsockname()[1])


class LinksOverHttp(HttpCase):
    """The running application, and what stands beside it."""

    def setUp(self) -> None:
        """Links are off."""
        self.http.delete("/link-setup")
        self.clipping = str(self.upload("clippings", encoded(text_like(200, 100)), "board.png").json()["clipping"])
        self.port = _free_port()
        self.outside = f"http://127.0.0.1:{self.port}"

    def switch_on(self, port: int | None = None) -> httpx.Response:
        """Set links up."""
        body = {"address": self.outside, "port": port or self.port, "only_here": True}
        return self.http.put("/link-setup", json=body)

    def make(self) -> str:
        """The address of a new link."""
        link: dict[str, str] = self.http.post(f"/clippings/{self.clipping}/links", json={}).json()
        return link["address"]

    def test_off_until_it_is_set_up(self) -> None:
        """No link is made, and nothing listens; switched on it does, switched off it does not."""
        self.assertFalse(self.http.get("/link-setup").json()["is_on"])
        self.assert_problem(self.http.post(f"/clippings/{self.clipping}/links", json={}), 400, "links-off")
        with self.assertRaises(httpx.ConnectError):
            httpx.get(self.outside)
        self.assertTrue(self.switch_on().json()["is_on"])
        address = self.make()
        self.assertEqual(httpx.get(address).status_code, 200)
        self.http.delete("/link-setup")
        with self.assertRaises(httpx.ConnectError):
            httpx.get(address)
        self.switch_on()
        self.assertEqual(httpx.get(address).status_code, 200)

    def test_nothing_else_is_reachable_through_it(self) -> None:
        """Every address of the application, with every method, is the same nothing there; and no link works at its own."""
        self.switch_on()
        token = self.make().rpartition("/")[2]
        nothing = httpx.get(f"{self.outside}/{'x' * 32}").content
        api = self.http.get("/openapi.json").json()["paths"]
        paths = [*api, "/", "/trim", "/place", "/docs", "/assets/", "/manifest.webmanifest", "/icon-192.png"]
        self.assertGreater(len(paths), 100)
        with httpx.Client() as client:
            for path in paths:
                for method in ("GET", "POST", "PUT", "DELETE"):
                    filled = path.replace("{", "").replace("}", "")
                    answer = client.request(method, self.outside + filled)
                    self.assertEqual((answer.status_code, answer.content), (404, nothing), f"{method} {path}")
        self.assertNotIn("uvicorn", str(httpx.get(f"{self.outside}/{token}").headers).lower())
        self.assertEqual(httpx.get(f"{self.server.address}/{token}").status_code, 404)

    def test_a_port_that_is_taken_leaves_all_as_it_was(self) -> None:
        """The application's own, for one."""
        self.switch_on()
        address = self.make()
        self.assert_problem(self.switch_on(self.server.port), 400, "link-port-taken")
        self.assertEqual(httpx.get(address).status_code, 200)
        for wrong in ("ftp://a.example", "http://", "http://me@a.example", "a.example:7480", "http://a.example/?x"):
            answer = self.http.put("/link-setup", json={"address": wrong, "port": self.port})
            self.assertEqual(answer.status_code, 422, wrong)

    def test_they_are_listed_and_withdrawn(self) -> None:
        """By the clipping, and all."""
        self.switch_on()
        address = self.make()
        (link,) = self.http.get("/links", params={"clipping": self.clipping}).json()
        self.assertEqual((link["address"], link["state"], link["views"]), (address, "open", 0))
        httpx.get(address)
        self.assertEqual(self.http.delete(f"/links/{link['id']}").json()["views"], 1)
        self.assertEqual(httpx.get(address).status_code, 410)
        happened = self.http.get("/happenings", params={"clipping": self.clipping}).json()
        kinds = [(each["kind"], each["detail"]) for each in happened]
        self.assertEqual(kinds[:2], [("withdrawn", "link"), ("left", "link")])


if __name__ == "__main__":
    unittest.main()
