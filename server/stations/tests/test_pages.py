"""The pages themselves: one page for every address, hashed files kept for good, nothing for other sites."""

from __future__ import annotations

from django.conf import settings
from django.test import SimpleTestCase


class PagesTest(SimpleTestCase):
    def test_no_script_but_our_own_no_frame_and_nothing_of_the_api_is_kept(self):
        page, reply = self.client.get("/"), self.client.get("/api/design/places")
        for found in (page, reply):
            policy = found["Content-Security-Policy"]
            self.assertIn("default-src 'self'", policy)
            self.assertIn("frame-ancestors 'none'", policy)
            self.assertNotIn("script-src", policy)  # so the default holds: no inline script
        self.assertNotIn("<script>", page.content.decode())
        self.assertEqual(reply["Cache-Control"], "no-store")
        for origin, status in (
            ("http://testserver", 422),
            ("https://testserver", 403),
            ("http://elsewhere", 403),
        ):
            sent = self.client.post(
                "/api/design/check", {}, content_type="application/json", headers={"origin": origin}
            )
            self.assertEqual(sent.status_code, status, origin)

    def test_every_address_but_the_apis_is_the_page(self):
        for path in ("/", "/hull/abc", "/day/00000000-0000-0000-0000-000000000000", "/nowhere"):
            reply = self.client.get(path)
            self.assertEqual(reply.status_code, 200)
            self.assertIn(b'<div id="root">', reply.content)
        self.assertEqual(self.client.get("/assets/none.js").status_code, 404)
        self.assertEqual(self.client.get("/api/none").json()["errors"][0]["code"], "not_found")

    def test_hashed_files_are_kept_and_sent_small(self):
        script = next(f for f in (settings.WEB_DIST / "assets").glob("index-*.js"))
        reply = self.client.get(f"/assets/{script.name}", headers={"Accept-Encoding": "gzip"})
        self.assertIn("immutable", reply["Cache-Control"])
        self.assertEqual(reply["Content-Encoding"], "gzip")
        self.assertLess(len(reply.content), script.stat().st_size / 2)

    def test_the_page_asks_nothing_of_other_hosts(self):
        for file in [settings.WEB_DIST / "index.html", *(settings.WEB_DIST / "assets").glob("*.css")]:
            text = file.read_text()
            self.assertNotIn("//fonts.", text)
            self.assertNotRegex(text, r"""(src|href)=["']https?:|url\(["']?https?:""")

    def test_another_hosts_name_is_refused(self):
        self.assertEqual(
            self.client.get("/api/boats", headers={"Host": "elsewhere.example"}).status_code, 400
        )
