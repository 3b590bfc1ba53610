"""Texts of a template in the language that is spoken: `{% say "Signed {day}" day=signing.at %}`."""

from django import template

from core import language
from core.language import begun, day_said, word_said
from core.quantities import figure

register = template.Library()


@register.simple_tag(name="say")
def say(text: str, **parts: object) -> str:
    """A text that was written in English, with its parts filled in."""
    return language.say(text, **parts)


@register.filter
def said(name: str) -> str:
    """A word of the contract as it is said."""
    return word_said(str(name)) if name else ""


@register.filter(name="figure")
def figure_said(value: float) -> str:
    """A number to four figures."""
    return figure(value, 4)


register.filter("begun", begun)
register.filter("day", day_said)
