"""Logging in."""

from __future__ import annotations

from oldspoon import settings as shipped
from people.models import User

from tests.conftest import Api, logged_in


def test_a_session_lasts_until_logged_out(here):
    api = logged_in("here-cook")
    person = api("GET", "/api/session").json()["person"]
    assert (person["username"], person["title"]) == ("here-cook", "cook there")
    assert not person["by_pin"]
    assert api("DELETE", "/api/session").json()["person"] is None
    assert api("GET", "/api/kitchens").status_code == 401


def test_a_wrong_password_says_so_by_the_field(here):
    answer = Api().log_in("here-cook", "wrong")
    assert answer.status_code == 401
    assert answer["content-type"] == "application/problem+json"
    assert answer.json()["fields"][0]["field"] == "password"


def test_guessing_is_throttled_by_name_wherever_it_comes_from(here):
    for number in range(5):
        api = Api()
        api.client.defaults |= {"REMOTE_ADDR": f"10.0.0.{number}", "HTTP_X_FORWARDED_FOR": f"9.9.9.{number}"}
        assert api.log_in("here-cook", "wrong").status_code == 401
    answer = Api().log_in("here-cook")
    assert answer.status_code == 429
    assert "Try again in 30 seconds" in answer.json()["detail"]
    assert Api().log_in("here-chef").status_code == 200


def test_passwords_are_kept_with_argon2(settings, db):
    settings.PASSWORD_HASHERS = shipped.PASSWORD_HASHERS
    user = User.objects.create_user("someone", password="a-long-enough-one")
    assert user.password.startswith("argon2$argon2id$")
    assert user.check_password("a-long-enough-one")


def test_the_page_allows_no_inline_script(client, db):
    policy = client.get("/k/here/book")["content-security-policy"]
    script = next(part for part in policy.split(";") if part.strip().startswith("script-src"))
    assert script.split() == ["script-src", "'self'"]
    assert client.get("/k/here/book")["x-frame-options"] == "DENY"
