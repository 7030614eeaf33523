"""Batches as they are written down."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.batch import Batch, Piece, read_batch, write_batch
from fox_cadence.core.docket.work import Work

WHOLE = """
docket = "Teasers"
products = ["portrait", "captions"]
out = "finished"
prove = true

[work]
title = "Marrow Bay"
author = "Rosa"

[[piece]]
project = "tide"
languages = ["en", "es"]

[[piece]]
series = "Pools"
"""


def test_a_batch_is_read() -> None:
    batch = read_batch(WHOLE)
    assert [(each.project, each.series, each.languages) for each in batch.piece] == [
        ("tide", "", ("en", "es")),
        ("", "Pools", ()),
    ]
    assert (batch.docket, batch.products, batch.prove, batch.voice) == (
        "Teasers", ("portrait", "captions"), True, True,
    )  # fmt: skip
    assert batch.work is not None
    assert batch.work.title == "Marrow Bay"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("piece = ", "not TOML"),
        ("products = ['video']", "piece: it is missing"),
        ("[[piece]]\nproject = 'a'", "say what is made"),
        ("products = ['video']\n[[piece]]", "piece.1: name a project or a series"),
        ("products = ['video']\n[[piece]]\nproject = 'a'\nseries = 'b'", "piece.1: name a project"),
        ("produkts = ['video']\n[[piece]]\nproject = 'a'", "produkts: there is no such setting"),
        ("products = 'video'\n[[piece]]\nproject = 'a'", "products:"),
        ("products = ['video']\n[work]\n[[piece]]\nproject = 'a'", "work.title: it is missing"),
    ],
)
def test_what_is_wrong_with_one_is_said_with_its_place(text: str, said: str) -> None:
    with pytest.raises(ValueError, match=said.replace(".", r"\.")):
        read_batch(text)


NAMES = st.text(min_size=1, max_size=20).filter(str.strip)


@given(
    st.lists(NAMES, min_size=1, max_size=4),
    st.lists(st.sampled_from(["video", "captions", "m4a"]), min_size=1, unique=True),
    NAMES,
    st.booleans(),
)
def test_what_is_written_down_is_read_again(
    projects: list[str], products: list[str], title: str, prove: bool
) -> None:
    batch = Batch(
        piece=tuple(Piece(project=each, languages=("en",) * prove) for each in projects),
        products=tuple(products),
        prove=prove,
        work=Work(title=title, description=title * 2) if prove else None,
    )
    assert read_batch(write_batch(batch)) == batch
