"""Treatments as the pages are told of them."""

from collections.abc import Sequence
from typing import Any, TypedDict

from fox_cadence.actions.treating import Measured
from fox_cadence.core.treatment import KINDS, SHIPPED, Treatment
from fox_cadence.media.treating import BANDS_HZ, RESPONSE_HZ


class TreatmentJson(TypedDict):
    """A treatment as core/treatment.py has it: each stage with its kind and its numbers."""

    name: str
    stages: list[dict[str, Any]]


class SettingJson(TypedDict):
    field: str
    label: str
    unit: str
    least: float
    most: float
    step: float


class StageKindJson(TypedDict):
    kind: str
    name: str
    described: str
    settings: list[SettingJson]
    made: dict[str, Any]


class TreatmentsJson(TypedDict):
    """What there is to choose from; `made` is a stage of the kind as it comes."""

    shipped: list[TreatmentJson]
    mine: list[TreatmentJson]
    kinds: list[StageKindJson]


class EffectJson(TypedDict):
    most_db: float | None
    mean_db: float | None


class MeasuredJson(TypedDict):
    """What a treatment does to a line: by stage, and by third octave before and after (dBFS)."""

    effects: list[EffectJson]
    bands_hz: list[float]
    before: list[float]
    after: list[float]
    response_hz: list[float]
    response_db: list[float]


def treatment_json(treatment: Treatment | None) -> TreatmentJson | None:
    if treatment is None:
        return None
    return {"name": treatment.name, "stages": [stage.model_dump() for stage in treatment.stages]}


def treatments_json(mine: Sequence[Treatment]) -> TreatmentsJson:
    return {
        "shipped": [made for each in SHIPPED if (made := treatment_json(each))],
        "mine": [made for each in mine if (made := treatment_json(each))],
        "kinds": [
            {
                "kind": each.kind,
                "name": each.name,
                "described": each.described,
                "settings": [
                    {
                        "field": s.field,
                        "label": s.label,
                        "unit": s.unit,
                        "least": s.least,
                        "most": s.most,
                        "step": s.step,
                    }
                    for s in each.settings
                ],
                "made": Treatment.model_validate({"stages": [{"kind": each.kind}]}).stages[0].model_dump(),
            }
            for each in KINDS
        ],
    }


def measured_json(measured: Measured) -> MeasuredJson:
    return {
        "effects": [{"most_db": e.most_db, "mean_db": e.mean_db} for e in measured.effects],
        "bands_hz": list(BANDS_HZ),
        "response_hz": list(RESPONSE_HZ),
        "response_db": list(measured.response_db),
        "before": list(measured.before),
        "after": list(measured.after),
    }
