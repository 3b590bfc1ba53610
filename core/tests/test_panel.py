"""What a rebuilder would say of each record of the panel."""

from unittest import TestCase

from core.document import check_document
from core.telling import assess
from core.tests.panel import PANEL, Case
from core.tests.panel_judged import EVERY, JUDGED, Judged
from core.tests.panel_shared import TOGETHER
from core.tests.panel_weighing import WEIGHING


def ranked(said, cylinder):
    """Faults of a cylinder, of its gaskets and of what it shares, the likeliest first."""
    one = next(c for c in said["cylinders"] if c["number"] == cylinder)
    own = [(f["probability"], f["fault"]) for f in one["faults"]]
    own += [(p["probability"], p["fault"]) for p in said["pairs"] if cylinder in p["cylinders"]]
    own += [(s["probability"], s["fault"]) for s in said["shared"] if cylinder in s["cylinders"]]
    return [fault for _, fault in sorted(own, reverse=True)]


def objections(case: Case):
    """What the answer gets wrong, in words."""
    said = assess(check_document(case.made), advise=False)
    cylinders = {one["number"]: one for one in said["cylinders"]}
    for number, faults in case.leads.items():
        first = ranked(said, number)[0]
        if first not in faults:
            yield f"cylinder {number}: {first} leads, not {' or '.join(faults)}"
    for fault, (least, most) in case.shared.items():
        chance = max((s["probability"] for s in said["shared"] if s["fault"] == fault), default=0)
        if not least <= chance <= most:
            yield f"{fault} shared: {chance:.2f}, not {least} to {most}"
    for (number, fault), (least, most) in case.chances.items():
        chance = next(f["probability"] for f in cylinders[number]["faults"] if f["fault"] == fault)
        if not least <= chance <= most:
            yield f"cylinder {number}: {fault} {chance:.2f}, not {least} to {most}"
    for number, letters in case.grades.items():
        if cylinders[number]["grade"] not in letters:
            yield f"cylinder {number}: grade {cylinders[number]['grade']}, not {letters}"
    codes = {one["code"] for one in said["warnings"]}
    for code in case.warns:
        if code not in codes:
            yield f"no warning {code}; {', '.join(sorted(codes))}"


def misjudged(case: Case, judged: Judged):
    """What is made of the answer, and a rebuilder would not."""
    said = assess(check_document(case.made), explain=False)
    engine, acts = said["engine"], said["next_tests"]
    if judged.run is not None:
        answer, word = judged.run
        runs = engine["may_run"]
        if runs["answer"] != answer or word not in runs["reason"]:
            yield f"run: {runs['answer']}, {runs['reason']}"
    for one in said["cylinders"]:
        wanted = judged.plugs.get(one["number"], judged.plugs.get(EVERY))
        if wanted not in (None, one["plug_action"]):
            yield f"plug of {one['number']}: {one['plug_action']}, not {wanted}"
    first = acts[0]["test"] if acts else ""
    if judged.act and first not in judged.act:
        yield f"first {first}, not {' or '.join(judged.act)}"
    if judged.on and acts and acts[0]["cylinders"] != list(judged.on):
        yield f"first on {acts[0]['cylinders']}, not {judged.on}"
    if judged.says not in engine["verdict"]:
        yield f"says {engine['verdict']!r}, nothing of {judged.says}"
    cost = engine["work"]["expected_cost"]
    if judged.money is not None and not judged.money[0] <= cost <= judged.money[1]:
        yield f"costs {cost}, not {judged.money}"


class PanelTests(TestCase):
    def test_what_is_made_of_it_is_what_a_rebuilder_would_do(self):
        for name, judged in JUDGED.items():
            case = next(one for one in PANEL if one.name == name)
            with self.subTest(name):
                self.assertEqual(list(misjudged(case, judged)), [], case.why)

    def test_the_panel_agrees(self):
        self.assertGreaterEqual(len(PANEL), 60)
        for case in PANEL + WEIGHING + TOGETHER:
            with self.subTest(case.name):
                self.assertEqual(list(objections(case)), [], case.why)
