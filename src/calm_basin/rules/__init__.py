"""Rule sets and values of the trade: published limits as data, one TOML file each."""

from calm_basin.rules.chosen import UnknownRuleSetError, chosen_rules
from calm_basin.rules.families import (
    FamilyFileError,
    drain_families,
    read_families,
    usual_family,
    written_families,
)
from calm_basin.rules.layers import (
    LayerFileError,
    LayerKind,
    layer_kinds,
    read_layers,
    written_layers,
)
from calm_basin.rules.reading import RuleFileError, read_rules, rule_sets, with_own, written_rules
from calm_basin.rules.ruleset import (
    TITLES,
    Asked,
    Fact,
    Limit,
    LimitTopic,
    RuleSet,
    Space,
    SpaceTopic,
    Written,
)
from calm_basin.rules.systems import (
    SystemFileError,
    build_systems,
    of_family,
    read_system,
    written_system,
)
from calm_basin.rules.trade import TRADE
from calm_basin.rules.widest import highest_step, steepest_floor, steepest_ramp

__all__ = [
    "TITLES",
    "TRADE",
    "Asked",
    "Fact",
    "FamilyFileError",
    "LayerFileError",
    "LayerKind",
    "Limit",
    "LimitTopic",
    "RuleFileError",
    "RuleSet",
    "Space",
    "SpaceTopic",
    "SystemFileError",
    "UnknownRuleSetError",
    "Written",
    "build_systems",
    "chosen_rules",
    "drain_families",
    "highest_step",
    "layer_kinds",
    "of_family",
    "read_families",
    "read_layers",
    "read_rules",
    "read_system",
    "rule_sets",
    "steepest_floor",
    "steepest_ramp",
    "usual_family",
    "with_own",
    "written_families",
    "written_layers",
    "written_rules",
    "written_system",
]
