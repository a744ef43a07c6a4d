"""What a survey is asked, in sentences."""

from __future__ import annotations

from cooper.desk.survey.ask_entries import ENTRIES
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.i18n.text import tr


def ask_topics(racks: tuple[str, ...], rules: tuple[str, ...]) -> tuple[list[Topic], list[Topic]]:
    """What a survey is asked, as one would ask it; then what is as usual."""
    keys = (*ENTRIES, "process", "materials", "another", "own", "share", "widths")
    at = {key: slot(key) for key in keys}
    ticks = {"racks": " ".join(slot(f"rack {r}") for r in racks), "rules": " ".join(slot(f"rule {r}") for r in rules)}
    first = [
        Topic(tr("What comes in"), [Sentence(tr("{power} at {n}, for {L_h}, with shocks {K_A}.", **at))]),
        Topic(tr("What is wanted"), [Sentence(tr("A ratio of {u_wanted} within {u_tol}.", **at))]),
        Topic(
            tr("How it is made"),
            [Sentence(tr("{process}, of {materials}.", **at)), Sentence(tr("{another} {own}", **at), light=True)],
        ),
        Topic(
            tr("In which space"),
            [
                Sentence(
                    tr("Centre distance {a_w}, at most {a_most}; diameters at most {d_most}, widths {b_most}.", **at),
                    light=True,
                ),
                Sentence(
                    tr("Across the axes at most {l_most}; housing {A_h}, oil at most {theta_most}.", **at), light=True
                ),
            ],
        ),
    ]
    rest = [
        Topic(
            tr("What is varied"),
            [
                Sentence(
                    tr("Pinions and suns {z_least} to {z_pinion} teeth, wheels up to {z_most}, rings {z_ring}.", **at),
                    light=True,
                ),
                Sentence(
                    tr("Modules {m_low} to {m_high}, step {m_step}; tools for {modules}; racks {racks}", **ticks, **at),
                    light=True,
                ),
                Sentence(
                    tr(
                        "Helix {beta_low} to {beta_high} by {beta_step}; shifts {x_low} to {x_high} by {x_step}, "
                        "shared by {share}.",
                        **at,
                    ),
                    light=True,
                ),
                Sentence(
                    tr(
                        "Widths {widths}, {b_m_low} to {b_m_high} modules in {b_steps} steps, at most {b_d_high} "
                        "diameters, rounded up to {b_round}.",
                        **at,
                    ),
                    light=True,
                ),
                Sentence(
                    tr(
                        "Planets {planets}; flank classes {classes}; a stage's ratio at most {lean} times the next "
                        "one's; face load factor {K_Hbeta}; {most} candidates are rated at most.",
                        **at,
                    ),
                    light=True,
                ),
            ],
        ),
        Topic(tr("What is required"), [Sentence(tr("What has no tick is only shown: {rules}", **ticks), light=True)]),
    ]
    return first, rest
