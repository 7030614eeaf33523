"""The rules of a project."""

from pydantic import Field

from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.value import Value


class HouseLimits(Value):
    """The rules of a project. Times in ticks; pace against the natural pace of a voice."""

    slowest_pace: float = Field(0.94, gt=0.3, le=1)
    fastest_pace: float = Field(1.15, ge=1, lt=3)
    shortest_pause_ticks: int = seconds_to_ticks(0.08)
    lead_ticks: int = seconds_to_ticks(0.10)
    tail_ticks: int = seconds_to_ticks(0.15)
    gap_ticks: int = seconds_to_ticks(0.12)
    voice_change_gap_ticks: int = seconds_to_ticks(0.25)
    longest_silence_ticks: int = seconds_to_ticks(1.5)
    reading_rate_cps: float = Field(20.0, gt=0)
    shortest_caption_ticks: int = seconds_to_ticks(0.8)
    caption_lead_ticks: int = seconds_to_ticks(0.10)
    caption_linger_ticks: int = seconds_to_ticks(0.30)
    caption_snap_ticks: int = seconds_to_ticks(0.20)
    shot_stretch: float = Field(0.25, ge=0, le=1)
    longest_j_cut_ticks: int = 0
    longest_l_cut_ticks: int = 0
    close_written_pauses: bool = False
    caption_lines: int = Field(2, ge=1, le=6)
    caption_line_characters: int = Field(32, ge=8, le=80)
    caption_gap_ticks: int = seconds_to_ticks(0.08)
    least_contrast: float = Field(4.5, ge=1, le=21)
