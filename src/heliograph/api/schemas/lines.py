"""Lines of looks, each kind with what it needs and nothing else."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, BeforeValidator, Field, StringConstraints, model_validator

from heliograph.api.schemas.base import Strict
from heliograph.api.schemas.moving import Drives, DriveView, Ribbons, RibbonView, Seed, SpeedBody, Word
from heliograph.core.look.attributes import KEPT_MAX, SETS_MAX
from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.feeds import ADDRESS_MAX
from heliograph.core.look.line import ROUNDS_MAX
from heliograph.core.look.parameter import TEXT_MAX

Params = Annotated[dict[Word, float | Annotated[str, StringConstraints(max_length=TEXT_MAX)]], Field(max_length=64)]
"""Of an effect, by name."""

StopBody = tuple[float, int, int, int]
Ramp = Annotated[list[StopBody], Field(min_length=1, max_length=8)]

BlendName = Literal["over", "add", "multiply", "lighten", "darken"]


class FittingBody(Strict):
    """How a clip lies on its matrix, and which part of it plays (`out_s` 0: to its end)."""

    fit: Literal["fill", "fit", "stretch"] = "fill"
    rotate: Literal[0, 90, 180, 270] = 0
    mirror: Literal["none", "across", "down", "both"] = "none"
    in_s: float = Field(0.0, ge=0.0, le=86_400.0)
    out_s: float = Field(0.0, ge=0.0, le=86_400.0)


OnlyName = Literal["", "hue", "saturation", "light"]
Rectangle = tuple[int, int, int, int]


class ThroughBody(Strict):
    """Another line of the look that this one is painted through: by its light or its cover, or the inverse."""

    line: UUID
    by: Literal["light", "cover"] = "light"
    inverse: bool = False


class RegionBody(Strict):
    """Rectangles of squares (column, row, columns, rows from 0) that a line keeps to; or all others."""

    squares: list[Rectangle] = Field(min_length=1, max_length=64)
    outside: bool = False


class ThroughView(BaseModel):
    line: str
    by: Literal["light", "cover"]
    inverse: bool


class RegionView(BaseModel):
    squares: list[Rectangle]
    outside: bool


class _NewLine(Strict):
    """`saved_ramp`: the id of a saved ramp that is used in place of `ramp`, or "". Without a ramp or a speed it gets
    those that what it paints begins with. A speed may be typed: "8 beats". `only`: the one component it writes. A
    `stencil` paints nothing itself: others are painted through it. `emitter`: the word of the one emitter that its
    picture's brightness is written to, "" for its colour on all. It is painted over one of a matrix, a group, or
    what a typed selection means at each moment."""

    id: UUID
    matrix: UUID | Literal[""] | None = None
    group: UUID | Literal[""] | None = None
    selection: Word = ""
    ramp: Ramp | None = None
    saved_ramp: Word = ""
    opacity: float = 1.0
    blend: BlendName = "over"
    only: OnlyName = ""
    emitter: Word = ""
    mute: bool = False
    solo: bool = False
    stencil: bool = False
    through: ThroughBody | None = None
    region: RegionBody | None = None
    shift: float = Field(0.0, allow_inf_nan=False)
    drives: Drives = Field(default_factory=dict)
    ribbons: Ribbons = Field(default_factory=dict)


EndsName = Literal["hold", "clear"]
OrderName = Literal["along", "turns", "dealt"]
Rounds = Annotated[int, Field(ge=0, le=ROUNDS_MAX)]


class NewEffectLine(_NewLine):
    paints: Literal["effect"]
    speed: SpeedBody | Word | None = None
    effect: Word
    params: Params = Field(default_factory=dict)
    seed: Seed = 0


class NewClipLine(_NewLine):
    paints: Literal["clip"]
    speed: SpeedBody | Word | None = None
    clip: UUID
    fitting: FittingBody = Field(default_factory=lambda: FittingBody.model_validate({}))
    rounds: Rounds = 0
    ends: EndsName = "hold"


class NewChaseLine(_NewLine):
    """`order`: there and back with turns, dealt anew each round; `rounds` 0 for ever."""

    paints: Literal["chase"]
    speed: SpeedBody | Word | None = None
    chase: UUID
    order: OrderName = "along"
    rounds: Rounds = 0
    ends: EndsName = "hold"
    seed: Seed = 0


class NewRecolourLine(_NewLine):
    paints: Literal["recolour"]
    params: Params = Field(default_factory=dict)


LostName = Literal["hold", "black", "clear"]
FeedAddress = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=ADDRESS_MAX)]


class NewFeedLine(_NewLine):
    """`lost`: what is shown once nothing came for 3 s."""

    paints: Literal["feed"]
    address: FeedAddress
    fitting: FittingBody = Field(default_factory=lambda: FittingBody.model_validate({}))
    lost: LostName = "hold"


Byte = Annotated[int, Field(ge=0, le=255)]
Sets = Annotated[dict[Word, Annotated[str, StringConstraints(max_length=TEXT_MAX)]], Field(max_length=SETS_MAX)]
"""What is typed for attributes, by their names: `open`, `20°`, `10 % > 90 %`; "" takes one away."""


class KeptBody(Strict):
    """Bytes on the wire of one fixture by channel of its mode, from 1, as long as it has that mode."""

    mode: Word
    values: Annotated[dict[Annotated[str, StringConstraints(pattern=r"^[1-9]\d{0,4}$")], Byte], Field(max_length=2048)]


KeptValues = Annotated[dict[UUID, KeptBody], Field(max_length=KEPT_MAX)]
"""By the fixture's id."""


class NewAttributeLine(_NewLine):
    """Sets what its presets say, then what was kept, then `params`: what is typed for attributes."""

    paints: Literal["attributes"]
    params: Sets = Field(default_factory=dict)
    presets: list[UUID] = Field(default_factory=list, max_length=16)
    kept: KeptValues = Field(default_factory=dict)


NewLine = Annotated[
    NewEffectLine | NewClipLine | NewRecolourLine | NewFeedLine | NewChaseLine | NewAttributeLine,
    Field(discriminator="paints"),
]


class _LineView(BaseModel):
    """`canvas`: the id of what it is painted over, among the show's matrices and canvases. `aside`: it is not painted
    because another line is solo."""

    id: str
    matrix: str
    group: str = ""
    selection: str = ""
    canvas: str = ""
    aside: bool = False
    ramp: list[StopBody]
    saved_ramp: str
    opacity: float
    blend: BlendName
    only: OnlyName = ""
    emitter: str = ""
    mute: bool
    solo: bool
    stencil: bool = False
    through: ThroughView | None = None
    region: RegionView | None = None
    shift: float = 0.0
    drives: dict[str, DriveView] = Field({})
    ribbons: dict[str, RibbonView] = Field({})

    @model_validator(mode="before")
    @classmethod
    def _with_canvas(cls, data: Any) -> Any:
        return {**data, "canvas": canvas_of(data)} if isinstance(data, dict) else data


class FittingView(BaseModel):
    fit: Literal["fill", "fit", "stretch"]
    rotate: Literal[0, 90, 180, 270]
    mirror: Literal["none", "across", "down", "both"]
    in_s: float
    out_s: float


class EffectLineView(_LineView):
    paints: Literal["effect"]
    speed: SpeedBody
    effect: str
    params: dict[str, float | str]
    seed: int


class ClipLineView(_LineView):
    paints: Literal["clip"]
    speed: SpeedBody
    clip: str
    fitting: FittingView
    rounds: int = 0
    ends: EndsName = "hold"


class ChaseLineView(_LineView):
    paints: Literal["chase"]
    speed: SpeedBody
    chase: str
    order: OrderName = "along"
    rounds: int = 0
    ends: EndsName = "hold"
    seed: int = 0


class RecolourLineView(_LineView):
    paints: Literal["recolour"]
    params: dict[str, float | str]


class FeedLineView(_LineView):
    paints: Literal["feed"]
    address: str
    fitting: FittingView
    lost: LostName


def _counts(kept: Any) -> Any:
    """Of what is kept of fixtures, how many channels of each."""
    return {fixture: len(one["values"]) if isinstance(one, dict) else one for fixture, one in kept.items()}


class AttributeLineView(_LineView):
    """`kept`: by the fixture's id, how many of its channels are kept."""

    paints: Literal["attributes"]
    params: dict[str, str]
    presets: list[str] = Field([])
    kept: Annotated[dict[str, int], BeforeValidator(_counts)] = Field({})


LineView = Annotated[
    EffectLineView | ClipLineView | RecolourLineView | FeedLineView | ChaseLineView | AttributeLineView,
    Field(discriminator="paints"),
]


class LinePatch(Strict):
    """Fields of one line; one that its kind has not is refused. `params` and `drives` are merged; "none" takes what it
    is painted through away."""

    matrix: UUID | None = None
    group: UUID | None = None
    selection: Word | None = None
    ramp: Ramp | None = None
    saved_ramp: Word | None = None
    speed: SpeedBody | Word | None = None
    opacity: float | None = Field(None, allow_inf_nan=False)
    blend: BlendName | None = None
    only: OnlyName | None = None
    emitter: Word | None = None
    mute: bool | None = None
    solo: bool | None = None
    stencil: bool | None = None
    through: ThroughBody | Literal["none"] | None = None
    region: RegionBody | Literal["none"] | None = None
    shift: float | None = Field(None, allow_inf_nan=False)
    drives: Drives | None = None
    ribbons: Ribbons | None = None
    effect: Word | None = None
    params: Params | None = None
    seed: Seed | None = None
    clip: UUID | None = None
    chase: UUID | None = None
    order: OrderName | None = None
    fitting: FittingBody | None = None
    rounds: Rounds | None = None
    ends: EndsName | None = None
    address: FeedAddress | None = None
    lost: LostName | None = None
    presets: list[UUID] | None = Field(None, max_length=16)
    kept: KeptValues | None = None
    rev: int | None = None


class Emitters(BaseModel):
    """Words, as in `red` and `warm white`. `plain`: what becomes of a colour where cells can only be white."""

    words: list[str]
    plain: str = ""


class Surprise(Strict):
    """`seed`: None draws one."""

    seed: Seed | None = None
    rev: int | None = None
