"""The models of format 2 of the file, from which its schema is published; files are read by `file_format`."""

from typing import Annotated, Any, Literal

from msgspec import Meta, field

from cooper.document.base import Model, about
from cooper.document.duty import Defaults, Duty
from cooper.document.gear_data import Gear, Mesh
from cooper.document.machine_data import Machine
from cooper.document.models import Losses, SetData, StageOverrides
from cooper.document.survey_spec import Survey


class FileMesh(Mesh, frozen=True, kw_only=True):
    """Two gears in mesh, by their identities."""

    driver: Annotated[str, about("identity of the driving gear")]  # type: ignore[assignment]
    driven: Annotated[str, about("identity of the driven gear")]  # type: ignore[assignment]


class FileStage(Model, frozen=True, kw_only=True):
    """A place in the train where one mesh works."""

    id: Annotated[str, about("identity, by which formulas name it")]
    name: Annotated[str, about("what the stage is called")]
    mesh: Annotated[str, about("identity of its mesh")]
    own: StageOverrides = StageOverrides()


class FilePair(Model, frozen=True, kw_only=True):
    """A stage of its own."""

    kind: Literal["pair"]
    stages: Annotated[tuple[FileStage, ...], Meta(min_length=1, max_length=1)]


class FileSet(SetData, frozen=True, kw_only=True):
    """Stages that work as one."""

    stages: Annotated[tuple[FileStage, ...], Meta(min_length=2, max_length=3)]


class FileTrain(Model, frozen=True, kw_only=True):
    """Duty, defaults, and gears and meshes by identity; the groups stand in the order in which power flows."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    gears: Annotated[dict[str, Gear], about("every gear once, by identity")]
    meshes: Annotated[dict[str, FileMesh], about("every mesh once, by identity")]
    groups: Annotated[tuple[dict[str, Any], ...], about("pairs and sets in the order of the power")]
    machine: Annotated[Machine | None, about("what is fixed of shafts, bearings and housing; null: not counted")] = None


class FileDesign(Model, frozen=True, kw_only=True):
    """The whole file."""

    format: Annotated[Literal["cooper-design"], about("says that this file is a Cooper design")] = "cooper-design"
    version: Annotated[Literal[2], about("version of the format")] = 2
    name: Annotated[str, about("name of the design", max_length=120)] = "Untitled train"
    place: Annotated[str, about("where the machine stands or is made", max_length=120)] = ""
    train: FileTrain
    names: Annotated[dict[str, str], about("named values: name and number or formula")] = field(default_factory=dict)
    formulas: Annotated[
        dict[str, str], about("formulas: a quantity by its stage's identity, as stage1.b_1, and its formula")
    ] = field(default_factory=dict)
    survey: Annotated[Survey, about("a survey that was made for this design, with what it found")] | None = None
