"""Files over the API: a job leaves one shop and arrives in another; a hostile file stays outside."""

import json

from tests.server.people import TwoShops


class Files(TwoShops):
    def send_file(self, content: bytes, shop=None, client=None):
        path = f"/api/shops/{(shop or self.shop).pk}/jobs/from-file"
        response = (client or self.client).post(path, content, content_type="application/json")
        return response.status_code, response.json()

    def test_a_job_travels_to_another_shop_with_its_materials(self):
        response = self.client.get(f"/api/jobs/{self.job.pk}/file")
        self.assertEqual(response["Content-Disposition"], 'attachment; filename="estuary-skiff.json"')
        status, arrived = self.send_file(response.content, self.other_shop, self.foreign)
        self.assertEqual((status, arrived["revision"]), (200, 1))
        self.assertEqual(arrived["document"], self.get(f"/api/jobs/{self.job.pk}")[1]["document"])
        self.assertNotEqual(arrived["id"], str(self.job.pk))

    def test_the_plan_leaves_as_json_too(self):
        response = self.client.get(f"/api/jobs/{self.job.pk}/plan-file")
        self.assertEqual(json.loads(response.content), self.get(f"/api/jobs/{self.job.pk}/plan")[1])

    def test_faults_of_a_file_are_all_told(self):
        status, answer = self.send_file(b'{"version": 1, "parts": [{"id": "a b"}], "wings": 2}')
        self.assertEqual(status, 422)
        self.assertEqual({fault["path"] for fault in answer["problems"]}, {"name", "parts.0.id", "wings"})

    def test_a_hostile_file_is_refused_and_no_job_is_made(self):
        for content in (b" " * 2_000_001, b"[" * 100_000, b"\x00\xff", b'{"name": "x", "version": 99}'):
            with self.subTest(content=content[:20]):
                status, answer = self.send_file(content)
                self.assertEqual((status, bool(answer["problems"][0]["message"])), (422, True))
        self.assertEqual(self.shop.jobs.count(), 2)
