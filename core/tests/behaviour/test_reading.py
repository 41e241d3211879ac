"""Recipes as people write them: every line becomes a line, and assumptions are listed."""

from __future__ import annotations

import json
import time
from contextlib import suppress

import custard
import pytest
from custard.cli.main import main
from custard.reading import Usual, read
from validation import reading

MILK_AND_YOLKS = "\n500 ml whole milk\n6 egg yolks\n90 g caster sugar\n"


def line(text, **usual):
    """What one line is read as, among others that make it a recipe."""
    found = read(f"A sauce{MILK_AND_YOLKS}{text}", Usual(**usual))
    return found.lines[3]


def lines(text, **usual):
    return [(one.ingredient, one.amount) for one in read(text, Usual(**usual)).lines]


@pytest.mark.parametrize("corpus", reading.CORPORA)
def test_recipes_are_read_as_a_person_reads_them(corpus):
    score = reading.score(corpus)
    assert score.right >= 0.95 * score.lines, score.wrong
    assert score.families >= 0.95 * score.recipes, score.wrong
    assert score.moments_right >= 0.90 * score.moments, score.wrong
    assert (score.dropped, score.wrong_and_sure) == (0, 0), score.wrong


@pytest.mark.parametrize(
    ("text", "ingredient", "grams"),
    [
        ("½ cup heavy cream (cold)", "whipping-cream-36", 117.5),
        ("3 tbsp of cornflour, sifted", "cornstarch", 23.4),
        ("1 vanilla bean", "vanilla-pod", 3),
        ("butter, 50 g", "butter-unsalted", 50),
        ("45 g corn flour", "cornstarch", 45),
        ("1 (12 fl oz) can evaporated milk", "evaporated-milk", 378),
        ("2 x 400 ml tins coconut milk", "coconut-milk", 784),
        ("a 397 g tin of condensed milk", "condensed-milk", 397),
        ("6 yolks (120 g)", "egg-yolk", 120),
        ("2 eggs (60 g each)", "whole-egg", 120),
        ("500 ml / 2 cups single cream", "single-cream-18", 506),
        ("100 g/3½ oz icing sugar", "icing-sugar", 100),
        ("2-3 tsp honey", "honey", 17.7),
        ("two to three tablespoons of honey", "honey", 53),
        ("juice of 2 lemons", "lemon-juice", 90),
        ("zest of 1/2 orange", "citrus-zest", 4),
        ("knob of butter", "butter-unsalted", 15),
        ("4 leaves gelatine", "gelatine-sheets-200", 8),
        ("1 cup plus 2 tbsp granulated sugar", "white-sugar", 225),
        ("1-1/2 cups heavy cream", "whipping-cream-36", 352),
        ("chocolate (66%), chopped, 150 g", "dark-chocolate-66", 150),
        ("35% cream 200 g", "whipping-cream-35", 200),
        ("1,500 g milk", "whole-milk", 1500),
        ("200 g creme fraiche", "creme-fraiche-30", 200),
        ("80 g mascarpone", "mascarpone", 80),
        ("30 g vanila sugar", "vanilla-sugar", 30),
        ("3/4 cup (5 1/4 oz; 150g) sugar", "white-sugar", 150),
        ("1 packed cup brown sugar", "brown-sugar", 220),
        ("milk g 250", "whole-milk", 250),
        ("nutmeg (pinch)", "ground-spice", 0.133),
        ("lemon juice 1 tbsp", "lemon-juice", 15.2),
        ("200 yolks", "egg-yolk", 200),
    ],
)
def test_a_line_is_weighed(text, ingredient, grams):
    found = line(text, measures="us", fixed=True)
    assert (found.ingredient, found.why) == (ingredient, "")
    assert found.grams == pytest.approx(grams, rel=0.02)


@pytest.mark.parametrize(
    ("text", "ingredient", "grams"),
    [
        ("1 EL Speisestärke", "cornstarch", 7.9),
        ("2 cuillères à soupe de rhum", "rum-40", 28.5),
        ("une noix de beurre", "butter-unsalted", 15),
        ("un demi-litre de lait", "whole-milk", 515.5),
        ("mezzo litro di latte", "whole-milk", 515.5),
        ("3 cucchiai di zucchero", "white-sugar", 38),
        ("2 cucharadas de maicena", "cornstarch", 15.8),
        ("3/4 de litro de leche", "whole-milk", 773),
        ("1 Päckchen Vanillezucker", "vanilla-sugar", 8),
        ("Saft von 1/2 Zitrone", "lemon-juice", 22.5),
        ("il succo di un limone", "lemon-juice", 45),
        ("1 colher de chá de canela em pó", "ground-spice", 2.2),
    ],
)
def test_other_languages_have_their_spoons(text, ingredient, grams):
    language = {"1": "de", "2": "fr"}.get(text[0], "")
    for tried in filter(None, (language, "fr", "de", "it", "es", "pt")):
        found = read(f"500 ml lait\n{text}", Usual(language=tried)).lines[1]
        if found.ingredient == ingredient and found.grams == pytest.approx(grams, rel=0.03):
            return
    pytest.fail(f"{found}")


def test_what_is_written_plainly_is_sure_and_what_is_assumed_says_so():
    milk, *_ = read("500 ml milk\n6 yolks").lines
    assert not milk.sure
    assert milk.assumed == ("milk: whole milk",)
    assert {option.ingredient for option in milk.options} == {"milk-2-percent", "skim-milk"}
    assert line("250 ml whole milk").sure
    assert not line("250 ml whole milk and cream mix").sure


def test_a_knob_offers_a_smaller_and_a_larger_one():
    amounts = {option.amount for option in line("knob of butter").options}
    assert {"8 g", "25 g"} <= amounts


def test_a_heaped_spoon_offers_a_level_one():
    heaped, level = line("1 rounded tbsp cornflour"), line("1 tbsp cornflour")
    assert heaped.grams == pytest.approx(2 * level.grams)
    assert heaped.assumed
    assert [one.amount for one in heaped.options] == [level.amount]
    assert line("1 heaped tsp honey").amount == "1 tsp"


def test_the_kitchen_s_last_choice_goes_before_the_country():
    assert line("100 g cream", used=("double-cream-48",)).ingredient == "double-cream-48"
    assert "as in this book" in line("100 g cream", used=("double-cream-48",)).assumed[0]


@pytest.mark.parametrize(
    ("text", "measures"),
    [
        ("1 pint heavy cream\n6 oz sugar\n6 yolks", "us"),
        ("1 pint milk\n2 oz caster sugar\n4 yolks", "metric"),
        ("2 cups milk\n6 yolks", "us"),
        ("250 ml thickened cream\n1 tbsp sugar\n3 yolks", "au"),
        ("1/2 l Milch\n1 EL Zucker\n3 Eigelb", "metric"),
    ],
)
def test_a_pint_is_the_one_of_the_country_whose_words_stand_beside_it(text, measures):
    assert read(text, Usual(measures="imperial")).measures == measures


def test_what_cannot_be_known_is_asked_and_nothing_is_dropped():
    found = read(f"A sauce{MILK_AND_YOLKS}vanilla\nzorblax, 20 g\nsalt to taste")
    vanilla, odd, salt = found.lines[3:]
    assert (vanilla.why, bool(vanilla.options)) == ("say how much", True)
    assert (odd.why, odd.amount) == ("say which ingredient this is", "20 g")
    assert (salt.as_note, salt.why, salt.grams) == (True, "", None)


@pytest.mark.parametrize(
    "text",
    [
        "500 ml milk, 6 yolks, 100 g sugar",
        "500 ml milk; 6 yolks; 100 g sugar",
        "milk 500 ml - yolks 6 - sugar 100 g",
        "Take 500 ml of milk, six yolks and 100 g of sugar. Whisk.",
        "Ingredient\tAmount\nmilk\t500 ml\nyolks\t6\nsugar\t100 g",
        "| Item | Qty |\n|---|---|\n| milk | 500 ml |\n| yolks | 6 |\n| sugar | 100 g |",
        "<ul><li>500 ml milk</li><li>6 yolks</li><li>100 g sugar</li></ul>",
        "Heat 500 ml of milk. Whisk 6 yolks with 100 g of sugar and pour on the milk.",
    ],
)
def test_the_same_recipe_in_every_shape(text):
    assert lines(text) == [("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "100 g")]


@pytest.mark.parametrize(
    ("text", "name", "first"),
    [
        ("Custard (1 pt): 1pt milk + 3 yolks + 1oz sugar", "Custard (1 pt)", ("whole-milk", "1 pint")),
        ("Konditorcreme 1000 g Milch, 250 g Zucker, 120 g Eigelb", "Konditorcreme", ("whole-milk", "1000 g")),
        ("Crema inglesa\nLeche....1.000 c.c.\nYemas....10 uds.", "Crema inglesa", ("whole-milk", "1000 ml")),
        ("Sabayón\n1 copa de cava (150 ml)\n4 yemas", "Sabayón", ("sparkling-wine", "150 ml")),
        ("Ice\nEGGS: 6 yolks\nDAIRY: 2 c heavy cream, 1 c whole milk", "Ice", ("egg-yolk", "6")),
    ],
)
def test_titles_headings_and_amounts_in_one_line(text, name, first):
    assert read(text).name == name
    assert lines(text)[0] == first


def test_an_oven_without_a_bath_is_no_bath():
    said = {
        one.what: one.value
        for one in read(f"A sauce{MILK_AND_YOLKS}Four 95 °C, 50 min sans bain-marie").settings
    }
    assert said["oven_c"] == 95
    assert "bath" not in said


def test_one_unit_for_all():
    text = "Base, all weights in g\nmilk 500\nyolks 100\nsugar 90"
    assert lines(text) == [("whole-milk", "500 g"), ("egg-yolk", "100 g"), ("white-sugar", "90 g")]


def test_a_recipe_is_halved_only_where_it_says_to():
    text = "Custard\nMake half of the recipe\n500 ml whole milk\n6 yolks"
    assert lines(text) == [("whole-milk", "250 ml"), ("egg-yolk", "3")]
    assert lines("Custard (half recipe)\n500 ml whole milk\n6 yolks")[0] == ("whole-milk", "500 ml")


def test_all_in_grams_yet_eggs_are_counted_where_so_few_are_meant():
    text = "Sauce\nmilk 500\nyolks 8\nsugar 120\nvanilla 1\n(all in grams)"
    assert lines(text) == [
        ("whole-milk", "500 g"),
        ("egg-yolk", "8"),
        ("white-sugar", "120 g"),
        ("vanilla-pod", "1"),
    ]
    assert not read(text).lines[1].sure


def test_what_is_soaked_in_something_is_two_lines():
    text = "Ice cream\n300 ml whole milk\n100 g raisins soaked in 60 ml dark rum\n4 yolks"
    assert lines(text)[1:3] == [("dried-fruit", "100 g"), ("rum-40", "60 ml")]


def test_a_heading_may_share_its_line_and_says_where_what_follows_goes():
    text = "Crème\nPour l'appareil : 500 ml de lait entier, 5 jaunes\nPour caraméliser : 40 g de cassonade"
    found = read(text).lines
    assert [str(one.when) for one in found if one.ingredient == "demerara"] == ["on top"]


def test_separated_eggs_are_two_lines():
    assert lines("4 eggs, separated\n500 ml whole milk")[:2] == [("egg-yolk", "4"), ("egg-white", "4")]


METHOD = """Pastry cream
500 ml whole milk
6 egg yolks
100 g caster sugar
40 g cornflour
1 vanilla pod
50 g unsalted butter
100 g double cream

Bring the milk with half of the sugar and the vanilla pod to the boil and leave to infuse for 20 minutes.
Whisk the yolks with the remaining sugar and the cornflour. Pour the hot milk slowly onto the yolks.
Boil for 2 minutes, whisking. Off the heat beat in the butter. Chill for 3 hours.
When cold, whip the cream and fold it in.
"""


def test_the_method_says_when_and_how():
    found = read(METHOD)
    assert {line.ingredient: str(line.when) for line in found.lines} == {
        "whole-milk": "in the dairy",
        "egg-yolk": "with the yolks",
        "white-sugar": "in the pan",
        "cornstarch": "with the yolks",
        "vanilla-pod": "infused",
        "butter-unsalted": "off the heat",
        "double-cream-48": "folded when cool",
    }
    assert next(line.minutes for line in found.lines if line.ingredient == "vanilla-pod") == 20
    settings = {setting.what: setting.value for setting in found.settings}
    assert settings["boil_s"] == 120
    assert settings["chill_h"] == 3
    assert settings["temper"] == "stream"
    assert settings["sugar"] == "split"
    assert "Boil for 2 minutes" in next(one.sentence for one in found.settings if one.what == "boil_s")


@pytest.mark.parametrize(
    ("sentence", "what", "value"),
    [
        ("Cook to 82-84 °C.", "cook_to_c", 83),
        ("Cook, stirring, to 180°F.", "cook_to_c", 82.2),
        ("Cook until it reaches 180 degrees F, about 5 minutes.", "cook_to_c", 82.2),
        ("Bake at 150°C (300°F) for 40 minutes.", "oven_c", 150),
        ("Bake at gas mark 3.", "oven_c", 163),
        ("Whisk over simmering water until it mounds.", "heat", "steam"),
        ("Churn in the ice cream machine.", "churn", "yes"),
        ("Chill overnight.", "chill_h", 12),
    ],
)
def test_a_sentence_decides(sentence, what, value):
    settings = {one.what: one.value for one in read(f"A sauce{MILK_AND_YOLKS}{sentence}").settings}
    assert settings[what] == value


@pytest.mark.parametrize(
    ("text", "family"),
    [
        ("Pastry cream\n500 ml milk\n6 yolks\n40 g cornflour", "pastry-cream"),
        ("Custard\n500 ml milk\n6 yolks\n90 g sugar", "anglaise"),
        ("Custard\n500 ml milk\n4 yolks\n5 g cornflour", "pouring-custard"),
        ("Weinschaum\n4 Eigelb\n100 g Zucker\n200 ml Weißwein", "sabayon"),
        ("4 yolks\n100 g sugar\n150 g white wine", "sabayon"),
        ("Flan\n4 huevos\n500 ml leche\n100 g azúcar\nHornear a 170 °C.", "baked-custard"),
        ("400 g evaporated milk\n3 yolks\n200 g sugar", "milk-filling"),
        ("300 g milk\n200 g dark chocolate 70%\n4 yolks", "cremeux"),
        ("Panna cotta\n500 g cream\n4 g gelatine", ""),
    ],
)
def test_the_family_is_found(text, family):
    found = read(text)
    assert found.family == family
    assert found.why
    assert bool(found.missing) == (family == "")


@pytest.mark.parametrize(
    "text", ["", "hello world", "Heat the milk.\nServe.", "\x00", "<html><body></body></html>"]
)
def test_what_is_no_recipe_is_said_to_be_none(text):
    with pytest.raises(custard.BadFormula) as refused:
        read(text)
    assert refused.value.field == "text"


def test_a_hundred_lines_are_enough():
    with pytest.raises(custard.BadFormula, match="100"):
        read("\n".join(["5 g salt"] * 101))


@pytest.mark.parametrize(
    "title", ["The best custard", "The very best", "A sauce for Sunday", "Two-minute custard"]
)
def test_a_title_that_begins_like_an_amount_is_no_line(title):
    found = read(f"{title}\n500 g whole milk\n6 egg yolks")
    assert (found.name, len(found.lines)) == (title, 2)


@pytest.mark.parametrize("first", ["The zest of a lemon", "A pint of cream for the custard", "Six egg yolks"])
def test_a_first_line_that_is_an_amount_is_no_title(first):
    found = read(f"{first}\n500 g whole milk\n100 g white sugar")
    assert found.name != first
    assert len(found.lines) == 3


@pytest.mark.parametrize(
    "text",
    [
        "milk " * 200_000,
        "1 " * 400_000,
        "(" * 900_000,
        "<div>" * 150_000 + "500 ml milk",
        "[" * 900_000,
        "500 ml milk, " * 70_000,
        "½" * 300_000,
        "500 ml milk\n" * 80_000,
        "Heat the milk and whisk the yolks with sugar, then cook to 82 C. " * 15_000,
    ],
    ids=["words", "numbers", "brackets", "page", "json", "sentence", "fractions", "lines", "method"],
)
def test_a_megabyte_is_answered_within_seconds_and_never_hurts(text):
    start = time.perf_counter()
    with suppress(custard.CustardError):
        read(text[:1_000_000])
    assert time.perf_counter() - start < 10


def test_more_than_a_megabyte_is_refused():
    with pytest.raises(custard.BadFormula, match="1000000"):
        read("x" * 1_000_001)


def test_control_characters_and_hidden_signs_do_not_matter():
    assert lines("Cust\u200bard\n500\u00a0ml whole milk\u202e\n6 egg yolks\x07")[0] == (
        "whole-milk",
        "500 ml",
    )


def test_the_command_prints_what_was_read(capsys, tmp_path):
    card = tmp_path / "card.txt"
    card.write_text("Custard\n1 pint milk\n3 yolks\n2 oz sugar\nCook to 82 C.", encoding="utf-8")
    assert main(["read", str(card), "--measures", "uk"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert (found["name"], found["family"]) == ("Custard", "anglaise")
    assert found["lines"][0]["grams"] == pytest.approx(585.9, rel=0.001)
    promised = {"text", "ingredient", "name", "amount", "grams", "when", "sure", "assumed", "options"}
    assert all(set(one) >= promised for one in found["lines"])
    assert found["method"][0]["settings"] == [{"what": "cook_to_c", "value": 82.0}]
    card.write_text("nothing here", encoding="utf-8")
    assert main(["read", str(card)]) == 2
    assert capsys.readouterr().err.count("\n") == 1


def test_what_is_kept_of_a_page_is_what_a_person_reads():
    rows = "<li>500 ml milk</li>\n\n<li>6 yolks</li>"
    page = f"<html><body><h1>Plain</h1><ul>{rows}</ul><script>x()</script></body></html>"
    assert read(page).text == "Plain\n500 ml milk\n6 yolks"
    assert read("Plain\n500 ml milk\n\n 6 yolks").text == "Plain\n500 ml milk\n\n 6 yolks"
