from mobbet.actions import library_rules
from mobbet.core.errors import Refused
from mobbet.store import blogs
from tests.actions.teams import TeamCase


class ScaledTests(TeamCase):
    def is_scaled(self) -> bool:
        return bool(blogs.by_slug(self.shop.db, "bench").scales_pictures)

    def test_the_owner_settles_whether_phones_scale_pictures_and_nobody_else_does(self) -> None:
        self.assertTrue(self.is_scaled())
        with self.assertRaises(Refused):
            library_rules.set_scales_pictures(self.shop, self.editor, "bench", False)
        self.assertTrue(self.is_scaled())
        library_rules.set_scales_pictures(self.shop, self.me, "bench", False)
        self.assertFalse(self.is_scaled())
