"""Another language: nothing that is said goes past the catalogue, and no figure changes with it."""

import random
import re
from contextlib import suppress
from datetime import date
from string import Formatter
from unittest import TestCase, mock

import numpy as np

from core import language
from core.assessment import Assessment
from core.document import check_document
from core.document.records import Document
from core.document.units import told_in_units
from core.errors import DocumentRefused, OutOfRange
from core.history.due import due
from core.history.over_time import Visit
from core.history.story import costs, events
from core.language import (
    ENGLISH,
    LANGUAGES,
    PROOF,
    date_said,
    number_said,
    say,
    speaking,
)
from core.planning import work_order
from core.quantities import DIMENSION_OF, Figure
from core.refit import refit_sheet
from core.simulation import draw_truth, record
from core.telling import assess, client_answer, record_entries
from core.tests.random_documents import random_document
from core.tests.test_wording import four

OTHERS = sorted(set(LANGUAGES) - {ENGLISH})
# What a person reads of an answer; everything else are figures and words of the contract.
SAID = {
    "finding", "text", "reason", "done", "open", "rivals", "unseen", "plug_reason", "label",
    "detail", "basis", "result", "means", "note", "title", "why", "cautions", "tools", "handle",
    "change", "remarks", "hints", "missing", "unverified", "points_steps", "figure", "lifts",
    "client", "rest", "asked",
}  # fmt: skip
# What random documents hold where somebody typed, and units: nobody translates those.
# And on what a claim rests is a word of the contract.
AS_TYPED = {"text", "left", "right", "EUR", "seen", "weighed", "rule", *DIMENSION_OF}


def said(answer, key=""):
    """Every text of an answer that somebody reads, with what it is."""
    if isinstance(answer, dict):
        for name, one in answer.items():
            yield from said(one, name)
    elif isinstance(answer, list | tuple):
        for one in answer:
            yield from said(one, key)
    elif isinstance(answer, str) and key in SAID:
        yield answer


def outside(text):
    """What of a text went past the catalogue: words outside all brackets."""
    left = re.sub("⟦[^⟦⟧]*⟧", " ", text)
    words = [word.strip(".") for word in re.findall(r"[A-Za-z][\w./]*", left)]
    return [word for word in words if word not in AS_TYPED and not word[1:].isdigit()]


def everything(checked):
    """All that the core says of a document."""
    document, answer = Document.of(checked), assess(checked)
    typed = Assessment.of(answer)
    client = client_answer(document, typed)
    texts = [client.answer, *client.behind, client.others, client.running, client.money]
    texts += [client.sure, client.pressures, client.plugs, client.next, *client.states.values()]
    visit = Visit("2026-05-01", document, typed)
    texts += [one.text for one in (*events(document), *costs(typed), *due([visit]))]
    texts += [one.label for one in record_entries(checked)]
    verdict = answer["engine"]["verdict"]
    return [*said([answer, refit_sheet(checked), work_order(checked)]), verdict, *texts]


def examples():
    yield check_document(four([150, 92, 95, 151], complaints=["misfire", "rough-idle"]))
    for seed in range(12):
        chance = np.random.default_rng(seed)
        yield check_document(record(draw_truth(chance), chance))
    source = random.Random(3)
    for _ in range(30):
        with suppress(DocumentRefused):
            yield check_document(random_document(source))


class LanguageTests(TestCase):
    def test_nothing_is_said_past_the_catalogue(self):
        past = set()
        for checked in examples():
            with speaking(PROOF):
                past |= {text for text in everything(checked) if outside(text)}
        self.assertEqual(past, set())

    def test_every_text_has_words_and_the_same_parts(self):
        """A part that a translation left out would be a figure that nobody reads."""
        for name in OTHERS:
            for text, told in language._catalogue(name).items():
                with self.subTest(language=name, text=text):
                    self.assertEqual(parts(told), parts(text))
                    self.assertEqual(told.endswith("."), text.endswith("."))

    def test_what_is_looked_up_is_known(self):
        """Words of the contract and texts of tables are looked up by what a variable holds."""
        for name in OTHERS:
            known, asked = language._catalogue(name), set()

            class Asked(dict):
                def get(self, text, otherwise=None, known=known, asked=asked):
                    asked.add(text)
                    return known.get(text, otherwise)

            with mock.patch.object(language, "_catalogue", lambda _: Asked()), speaking(name):
                for checked in examples():
                    everything(checked)
            self.assertGreater(len(asked), 300)
            self.assertEqual({one for one in asked - known.keys() if one not in AS_TYPED}, set())

    def test_no_figure_depends_on_the_language(self):
        for checked in examples():
            told = [assess(checked)]
            for name in OTHERS:
                with speaking(name):
                    told.append(assess(checked))
            self.assertEqual(*map(without_texts, told))

    def test_figures_have_the_signs_of_the_language(self):
        """Comma for the fraction and point for the thousands, as the CLDR has German."""
        with speaking("de"):
            self.assertEqual(str(Figure(0.9, "mm")), "0,9 mm")
            text = say("about {hours:.0f} hours", hours=1234.5)
            self.assertEqual(text, "etwa 1234 Stunden")
            self.assertEqual(number_said(f"{12345.6:,.1f}"), "12.345,6")
            self.assertEqual(date_said(date(2026, 3, 3)), "3. März 2026")
            told = told_in_units("Abstand 1,1 mm, Druck 9,8 bar", "imperial")
            self.assertEqual(told, "Abstand 0,04331 in, Druck 142,1 psi")
        self.assertEqual(str(Figure(0.9, "mm")), "0.9 mm")

    def test_a_language_that_nobody_speaks_is_refused(self):
        with self.assertRaises(OutOfRange), speaking("tlh"):
            pass


def parts(text):
    return sorted(f"{name}:{form}" for _, name, form, _ in Formatter().parse(text) if name)


def without_texts(part, key=""):
    if isinstance(part, dict):
        return {name: without_texts(one, name) for name, one in part.items()}
    if isinstance(part, list):
        return sorted((without_texts(one, key) for one in part), key=repr)
    if isinstance(part, str):
        return "" if key in SAID or key == "verdict" else part
    return part
