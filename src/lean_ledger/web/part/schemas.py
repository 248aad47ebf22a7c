"""The part, its features and its models, as the API shows them."""

from __future__ import annotations

from pydantic import BaseModel, Field

from lean_ledger.web.shared.wire import Point, Vec


class MeasureView(BaseModel):
    label: str
    value: float
    unit: str
    source: str


class SaidView(BaseModel):
    """What the planner says of a feature that the model does not."""

    thread: str
    tolerance: str
    finish: float | None
    note: str
    asks_for: str


class FeatureView(BaseModel):
    id: str
    kind: str
    title: str
    faces: list[int]
    access: list[Vec]
    volume: float
    measures: list[MeasureView]
    setups: list[str]
    operations: list[str]
    left_out: str | None
    said: SaidView
    threads: list[str]
    became: str  # since the revision before: same, moved, resized, new
    in_the_way: str
    is_flat_side: bool
    movable_to: list[str]
    needs_machining: bool


class PatternView(BaseModel):
    shape: str
    words: str
    center: Vec
    diameter: float
    rows: int
    columns: int
    pitch: float
    row_pitch: float


class FeatureGroupView(BaseModel):
    title: str
    ids: list[str]
    pattern: PatternView | None


class HoleSizeView(BaseModel):
    """All holes of one diameter, and the threads that fit them."""

    diameter: float
    features: list[str]
    thread: str | None
    options: list[str]


class MeshView(BaseModel):
    """Flat lists, three numbers a vertex; `faces[i]` is the face of triangle i; edges as polylines."""

    vertices: list[float]
    triangles: list[int]
    faces: list[int]
    edges: list[list[float]]
    min: Vec
    max: Vec


class ChangedView(BaseModel):
    label: str
    before: float
    after: float
    unit: str


class FeaturePairView(BaseModel):
    """`old` and `new` are ids in the plan, `own` is the new feature's id in its own model."""

    old: str | None
    new: str | None
    own: str | None
    title: str
    became: str
    moved: float
    changes: list[ChangedView]
    by_hand: bool
    decided: list[str]


class CompareView(BaseModel):
    """Two revisions: pairs of features, and what became of each face of either model."""

    before: str
    after: str
    pairs: list[FeaturePairView]
    before_faces: list[str]
    after_faces: list[str]
    before_features: dict[str, list[int]]
    after_features: dict[str, list[int]]


class PickView(BaseModel):
    face: int = Field(ge=0)
    point: Vec


class PicksBody(BaseModel):
    """One or two places on the part that were pointed at."""

    picks: list[PickView] = Field(min_length=1, max_length=2)
    revision: str = ""


class PickReadingView(BaseModel):
    label: str
    value: float
    unit: str
    line: tuple[Vec, Vec] | None


class PickReadings(BaseModel):
    readings: list[PickReadingView]


class DrawingView(BaseModel):
    visible: list[list[Point]]
    hidden: list[list[Point]]
