"""The command line: serve, demo, features, setups, plan, price. See docs/formats.md for the files."""

from __future__ import annotations

import json
import logging
import signal
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn, TypeVar

import click

from lean_ledger import __version__
from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.library.machines import Machine

if TYPE_CHECKING:
    from lean_ledger.store.lock import Lock

T = TypeVar("T")

DEFAULT_DB = Path("data/lean-ledger.sqlite")
DEMO_DB = Path("data/demo.sqlite")
BAD_INPUT = 2


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__)
def commands() -> None:
    """Plan, time and price machined parts."""


def main() -> None:
    """Run the command line; a wrong call is one line on standard error and exit 2, like any bad input."""
    try:
        commands.main(standalone_mode=False)
    except click.exceptions.NoArgsIsHelpError as error:
        click.echo(error.ctx.get_help() if error.ctx else "")
    except click.ClickException as error:
        _bad(f"lean-ledger: {error.format_message()}")
    except click.Abort:
        sys.exit(130)


def _served(default: Path) -> Callable[[T], T]:
    """The options of what serves: where the shop is kept, and who may come in."""

    def add(command: T) -> T:
        for option in reversed((
            click.option("--db", type=click.Path(path_type=Path), default=default, show_default=True,
                         help="The database file."),
            click.option("--host", default="127.0.0.1", show_default=True, help="The address to listen on."),
            click.option("--port", default=8321, show_default=True, type=click.IntRange(0, 65535)),
            click.option("--allow-host", multiple=True, metavar="NAME",
                         help="A name that the server answers under, beside localhost; may be given several times."),
            click.option("--follow/--no-follow", default=True, show_default=True,
                         help="Follow the stock of the newest plans whether somebody looks at them or not."),
            click.option("--nobody-is-kept-out", is_flag=True,
                         help="Listen where other machines can reach it, though anybody there can read and change it."),
        )):  # fmt: skip
            command = option(command)  # type: ignore[type-var]
        return command

    return add


@commands.command()
@_served(DEFAULT_DB)
def serve(
    db: Path, host: str, port: int, allow_host: tuple[str, ...], *, follow: bool, nobody_is_kept_out: bool
) -> None:  # fmt: skip
    """Serve the web application."""
    _check_open(host, nobody_is_kept_out=nobody_is_kept_out)
    _serve(db, host, port, allow_host, demo=False, follow=follow)


@commands.command()
@_served(DEMO_DB)
def demo(
    db: Path, host: str, port: int, allow_host: tuple[str, ...], *, follow: bool, nobody_is_kept_out: bool
) -> None:  # fmt: skip
    """Serve with the demo shop's jobs; what was entered before stays."""
    _check_open(host, nobody_is_kept_out=nobody_is_kept_out)
    _serve(db, host, port, allow_host, demo=True, follow=follow)


@commands.command()
@click.argument("part", type=click.Path(path_type=Path))
@click.option("--solid", default=0, type=click.IntRange(0), help="Which solid of the file, from 0.")
def features(part: Path, solid: int) -> None:
    """Machining features of a STEP file."""
    _answer(part, lambda: _features(part, solid))


@commands.command()
@click.argument("part", type=click.Path(path_type=Path))
@click.option("--machine", required=True, type=click.Path(path_type=Path), help="A machine, lean-ledger/machine@1.")
@click.option("--solid", default=0, type=click.IntRange(0), help="Which solid of the file, from 0.")
@click.option("--allowance", default="", help="Stock on the sides, mm: X-=2,Z+=0.5; 2 on those not named.")
def setups(part: Path, machine: Path, solid: int, allowance: str) -> None:
    """The least number of setups for a STEP file on a machine."""
    _answer(part, lambda: _setups(part, machine, solid, allowance))


@commands.command("program-time")
@click.argument("program", type=click.Path(path_type=Path))
@click.option("--machine", required=True, type=click.Path(path_type=Path), help="A machine, lean-ledger/machine@1.")
def program_time(program: Path, machine: Path) -> None:
    """How long a machine takes for a program in ISO 6983 words."""
    _answer(program, lambda: _program_time(program, machine))


@commands.command()
@click.argument("problem", type=click.Path(path_type=Path))
def price(problem: Path) -> None:
    """Prices of a price problem, for all its quantities."""
    _answer(problem, lambda: _price(problem))


@commands.command()
@click.argument("problem", type=click.Path(path_type=Path))
def layout(problem: Path) -> None:
    """Where the pieces of a load stand, on which work offset, and what does not fit."""
    _answer(problem, lambda: _layout(problem))


@commands.command()
@click.argument("problem", type=click.Path(path_type=Path))
def sequence(problem: Path) -> None:
    """The order of a load's operations that costs least: changes of tool, of angle and of piece."""
    _answer(problem, lambda: _sequence(problem))


@commands.command()
@click.argument("problem", type=click.Path(path_type=Path))
def timeline(problem: Path) -> None:
    """What runs at the same time on a machine with several paths, and where they wait for one another."""
    _answer(problem, lambda: _timeline(problem))


@commands.command()
@click.argument("problem", type=click.Path(path_type=Path))
def balance(problem: Path) -> None:
    """Tasks spread over stations so that the cycle is shortest."""
    _answer(problem, lambda: _balance(problem))


@commands.command()
@click.argument("part", type=click.Path(path_type=Path))
@click.option("--solid", default=0, type=click.IntRange(0), help="Which solid of the file, from 0.")
@click.option("--material", default="al-6082", show_default=True, help="A material of the library, by its key.")
@click.option("--quantities", default="10,50,250", show_default=True, help="Whole numbers, separated by commas.")
@click.option("--machine", multiple=True, metavar="NAME", help="A machine of the library; may be given several times.")
def plan(part: Path, solid: int, material: str, quantities: str, machine: tuple[str, ...]) -> None:
    """The plan that a new job gets for a STEP file, its stock followed as solids."""
    _answer(part, lambda: _plan(part, solid, material, quantities, machine))


@commands.command(hidden=True)
def openapi() -> None:
    """The OpenAPI document of the web application, from which the front end's types are made."""
    from lean_ledger.web.app import openapi_document

    click.echo(openapi_document(), nl=False)


def _features(part: Path, solid: int) -> dict[str, Any]:
    from lean_ledger.core.features import recognise
    from lean_ledger.core.features.contract import features_document

    model = _model(part, solid)
    return features_document(model, recognise(model.solid))


def _setups(part: Path, machine: Path, solid: int, allowance: str) -> dict[str, Any]:
    from lean_ledger.core.features import recognise
    from lean_ledger.core.setups.contract import read_allowances, setups_document

    over = read_allowances(allowance)
    wanted = _machine(machine)
    model = _model(part, solid)
    return setups_document(model, recognise(model.solid), wanted, over)


def _plan(part: Path, solid: int, material: str, quantities: str, machines: tuple[str, ...]) -> dict[str, Any]:
    from lean_ledger.core.geometry.host import KernelHost
    from lean_ledger.core.papers.plan_document import first_plan, plan_document
    from lean_ledger.core.part import reading
    from lean_ledger.library import shipped_library

    try:
        wanted = tuple(int(word) for word in quantities.replace(",", " ").split())
    except ValueError:
        _bad(f"lean-ledger: --quantities: {quantities!r} are not whole numbers separated by commas")
    host = KernelHost()
    try:
        read = host.run(reading.MODULE, "read_analysed", part, part.name, solid)
    finally:
        host.close()
    return plan_document(read, first_plan(read, material, wanted, shipped_library(), machines))


def _program_time(program: Path, machine: Path) -> dict[str, Any]:
    from lean_ledger.core.control.contract import program_time_document
    from lean_ledger.core.control.run import run_program

    wanted = _machine(machine)
    # a comment in another encoding is no reason to refuse the words around it
    text = program.read_text(encoding="utf-8", errors="replace")
    return program_time_document(run_program(text, wanted))


def _machine(file: Path) -> Machine:
    """The machine of a file; what is wrong with it is said of that file, not of the part."""
    from lean_ledger.core.files.machine_file import parse_machine

    return _computed(file, lambda: parse_machine(file.read_text(encoding="utf-8")))


def _model(part: Path, solid: int) -> PartModel:
    from lean_ledger.core.geometry.host import KernelHost

    host = KernelHost()
    try:
        return host.read_solid(part, part.name, solid)
    finally:
        host.close()


def _price(problem: Path) -> dict[str, Any]:
    from lean_ledger.core.pricing import parse_price_problem, price_document
    from lean_ledger.core.pricing import price as price_of

    return price_document(price_of(parse_price_problem(problem.read_text(encoding="utf-8"))))


def _layout(problem: Path) -> dict[str, Any]:
    from lean_ledger.core.loads.layout_problem import layout_document, parse_layout_problem

    return layout_document(parse_layout_problem(problem.read_text(encoding="utf-8")))


def _sequence(problem: Path) -> dict[str, Any]:
    from lean_ledger.core.order.sequence_problem import parse_sequence_problem, sequence_document

    return sequence_document(parse_sequence_problem(problem.read_text(encoding="utf-8")))


def _balance(problem: Path) -> dict[str, Any]:
    from lean_ledger.core.order.balance_problem import balance_document, parse_balance_problem

    return balance_document(parse_balance_problem(problem.read_text(encoding="utf-8")))


def _timeline(problem: Path) -> dict[str, Any]:
    from lean_ledger.core.order.timeline_problem import parse_timeline_problem, timeline_document

    return timeline_document(parse_timeline_problem(problem.read_text(encoding="utf-8")))


def _answer(file: Path, compute: Callable[[], dict[str, Any]]) -> None:
    """Print one JSON document, or one line on standard error and exit 2."""
    click.echo(json.dumps(_computed(file, compute), ensure_ascii=False))


def _computed(file: Path, compute: Callable[[], T]) -> T:
    """What is computed from a file; or one line on standard error and exit 2."""
    try:
        return compute()
    except LedgerError as error:
        place = f"{error.place}: " if error.place and error.place != file.name else ""
        _bad(f"{file}: {place}{error.message}")
    except OSError as error:
        _bad(f"{file}: {error.strerror or error}")
    except UnicodeDecodeError:
        _bad(f"{file}: is not UTF-8 text")


def _bad(line: str) -> NoReturn:
    click.echo(" ".join(line.split()), err=True)
    sys.exit(BAD_INPUT)


def _check_open(host: str, *, nobody_is_kept_out: bool) -> None:
    """Off the loopback there is no sign-in yet: nobody starts that by accident."""
    from lean_ledger.web.serving.guard import is_loopback

    if not is_loopback(host) and not nobody_is_kept_out:
        _bad(f"{host}: is not an address of this machine alone, or there is no such host. There is no sign-in: whoever "
             "reaches it can read and change everything. Use 127.0.0.1, or add --nobody-is-kept-out to serve it "
             "all the same")  # fmt: skip


def _serve(db: Path, host: str, port: int, hosts: tuple[str, ...], *, demo: bool, follow: bool) -> None:
    """One line on standard error and exit 2 for what keeps it from starting."""
    from lean_ledger.store import StoreError
    from lean_ledger.store.lock import Lock

    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(message)s")
    logging.getLogger("lean_ledger").setLevel(logging.INFO)
    logging.getLogger("waitress").setLevel(logging.ERROR)
    signal.signal(signal.SIGTERM, signal.default_int_handler)  # end as by Ctrl C, with the kernel's processes
    try:
        with Lock(db) as lock:
            _serve_alone(db, lock, host, port, hosts, demo=demo, follow=follow)
    except StoreError as error:
        _bad(f"{db}: {error.message}")
    except KeyboardInterrupt:
        sys.exit(130)


def _serve_alone(
    db: Path, lock: Lock, host: str, port: int, hosts: tuple[str, ...], *, demo: bool, follow: bool
) -> None:  # fmt: skip
    from lean_ledger.core.basis.collector import keep_what_is_there
    from lean_ledger.core.geometry.host import KernelHost, load_before
    from lean_ledger.demo.shop import load_demo
    from lean_ledger.library import shipped_library
    from lean_ledger.store import Database, Desk
    from lean_ledger.tasks import Following, Refreshing
    from lean_ledger.web import create_app
    from lean_ledger.web.app import close_app
    from lean_ledger.web.serving.server import Server, run

    database = Database(db)
    database.sweep()
    load_before(create_app.__module__)
    kernel = KernelHost()
    desk = Desk(database, shipped_library(), kernel)
    own_names = (*hosts, host)
    app = create_app(desk, own_names)
    try:
        server = Server(app, host, port)
    except (OSError, ValueError) as error:
        kernel.close()
        words = getattr(error, "strerror", None) or str(error)
        _bad(f"{host}:{port}: cannot listen there: {words}; choose another --port or --host")
    refreshing, following = Refreshing(desk, app.config["ASIDE"]), Following(desk)
    try:
        if demo:
            load_demo(desk)
        kernel.warm_up()
        app.config["ASIDE"].warm_up()
        keep_what_is_there()
        refreshing.start()
        if follow:
            following.start()
        url = f"http://{f'[{host}]' if ':' in host else host}:{server.effective_port}"
        lock.say(url)
        for row in desk.library.set_aside:
            logging.getLogger("lean_ledger").warning("%s %s is set aside: %s", row.what, row.key, row.why)
        click.echo(f"Lean Ledger on {url}  (database {db})")
        run(server)
    finally:
        refreshing.close()
        following.close()
        close_app(app)
        desk.stocks.close()
        kernel.close()


if __name__ == "__main__":
    main()
