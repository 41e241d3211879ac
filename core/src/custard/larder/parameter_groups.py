"""The groups of the model's parameters, by what they are for; a field is a row of `data/parameters.csv`."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Coagulation:
    """Setting and curdling of egg protein."""

    set_base_c: float
    reference_protein_percent: float
    sugar_shift_k: float
    ethanol_shift_k: float
    dilution_shift_k: float
    lean_shift_k: float
    acid_shift_k: float
    acid_reference_ph: float
    set_rate_per_s: float
    set_z_k: float
    curdle_gap_k: float
    gap_sugar_k: float
    gap_sugar_from_percent: float
    unstirred_gap_k: float
    curdle_rate_per_s: float
    curdle_z_k: float
    starch_guard_k: float
    starch_guard_percent: float
    bits_guard_percent: float
    casein_splits_ph: float


@dataclass(frozen=True)
class Starch:
    """How sugar delays the swelling of any starch; each kind's own numbers are in `starches`."""

    sugar_shift_k: float
    sugar_shift_k2: float


@dataclass(frozen=True)
class Texture:
    """Yield stress and flow of the network of coagulated protein and swollen starch."""

    protein_swelling_ml_g: float
    casein_volume_ml_g: float
    cocoa_volume_ml_g: float
    crowding_exponent: float
    yield_scale_pa: float
    yield_slope: float
    network_blend: float
    yield_limit_pa: float
    stirred_limit_pa: float
    hot_reference_c: float
    cold_reference_c: float
    protein_setback: float
    fat_crystal_factor: float
    fat_network_pa: float
    butter_network_pa: float
    gelatine_pa: float
    gelatine_sets_c: float
    gelatine_width_k: float
    gelatine_h: float
    cocoa_butter_yield_pa: float
    cocoa_butter_factor: float
    whisked_share: float
    whisked_back: float
    consistency_scale: float
    consistency_power: float
    packing_limit: float
    packing_power: float


@dataclass(frozen=True)
class Spoon:
    """The spoon test."""

    spoon_c: float
    spoon_length_mm: float
    drain_s: float
    line_mm: float
    surface_tension_n_m: float
    hold_share: float
    most_film_mm: float


@dataclass(frozen=True)
class Losses:
    """What does not reach the jug."""

    wall_film_g_m2: float
    evaporation_share: float
    pan_depth_m: float
    wide_g_m2s: float
    wide_m2_kg: float


@dataclass(frozen=True)
class Cook:
    """The standard cook at which a window is stated."""

    rate_k_per_min: float
    curdle_margin_k: float
    thickened_enough: float
    boil_hold_s: float
    boils_from_percent: float
    boiled_curdled: float
    near_margin_k: float


@dataclass(frozen=True)
class Temper:
    """What is lost while the dairy is poured."""

    bowl_j_kgk: float
    pour_s: float
    whisk_s: float
    between_s: float
    near_share: float
    dairy_cooling_k_per_min: float


@dataclass(frozen=True)
class Foam:
    """Whisking air into yolks."""

    best_overrun: float
    hand_s: float
    electric_s: float
    tension_n_m: float
    bubble_m: float
    heat_share: float
    lid_share: float
    collapse: float
    collapse_s: float
    weeping_per_h: float
    least_weeping_per_h: float
    film_degree: float
    wide_pa_scale: float


@dataclass(frozen=True)
class Oven:
    """Cups in a bath in the oven."""

    bath_w_m2k: float
    oven_w_m2k: float
    rise_share: float
    bath_c: float
    bath_slope: float


@dataclass(frozen=True)
class Heat:
    """Heat into and out of the pan, and what the hot base does to the film on it."""

    whisk_w_m2k: float
    whisk_least_w_m2k: float
    spatula_share: float
    still_w_m2k: float
    thickening_power: float
    air_w_m2k: float
    air_c: float
    off_heat_share: float
    fill_ratio: float
    steam_w_m2k: float
    steam_most_w_m2k: float
    steam_drives_w_m2: float
    steam_share: float
    steam_loss_w: float
    simmer_w: float
    flame_w_kg: float
    bowl_share: float
    film_share: float
    renew_whisk_per_s: float
    renew_spatula_per_s: float
    renew_still_per_s: float
    catch_c: float
    catch_s: float
    catch_z_k: float
    scraped_share: float


@dataclass(frozen=True)
class Enzyme:
    """Yolk amylase, and what it does to a starch cream by the next day."""

    reference_c: float
    sugar_shift_k: float
    z_k: float
    lag_k: float
    lag_share: float
    thinning_per_h: float


@dataclass(frozen=True)
class Lethality:
    """Heat resistance of Salmonella, at the conservative end; information, never clearance."""

    d60_s: float
    z_k: float
    sugar_from_percent: float
    sugar_decade_percent: float
    asked_logs: float


@dataclass(frozen=True)
class Keep:
    """How long what was made is kept, and how; on the safe side, local rules come first."""

    same_day_h: float
    opened_days: float
    thawed_days: float
    churned_days: float
    warm_h: float
    lukewarm_h: float
    warm_curdled: float
    weeps_share: float
    whites_days: float
    whites_frozen_days: float


@dataclass(frozen=True)
class Later:
    """What becomes of a sauce after it has been cooked."""

    crystals_h: float
    setback_gain: float
    setback_h: float
    weeps_share: float
    egg_weeps_share: float
    weeps_from_percent: float
    sugar_holds_percent: float
    frozen_half_days: float


@dataclass(frozen=True)
class Finish:
    """What joins after the heat, and what becomes of it."""

    butter_c: float
    spirit_c: float
    fold_c: float
    butter_joins_c: float
    cream_overrun: float
    fold_loss: float
    overmix_loss: float
    foam_melts_c: float
    foam_melts_width_k: float
    foam_least: float
    fat_breaks_foam: float
    whipped_pa: float
    butter_air: float
    butter_pa: float
    cheese_pa: float
    puree_pa: float
    white_pa: float
    white_g_ml: float
    white_sugar_g_ml: float
    alcohol_loss_per_min: float
    stir_in_min: float
    chocolate_water: float
    first_pour_share: float
    chocolate_c: float
    crust_g_cm2: float
    flame_w_m2: float
    grill_w_m2: float
    crust_crisp_min: float


@dataclass(frozen=True)
class Infuse:
    """Flavour drawn in the dairy."""

    lid_share: float
    least_min: float


@dataclass(frozen=True)
class Serve:
    """Sharing a batch out."""

    lost_share: float


@dataclass(frozen=True)
class Stir:
    """Stirring by place: what a pass of the whisk is worth, and how far."""

    free_s: float
    fades_s: float
    lateral_w_k: float
    whisk_share: float
    loose_share: float
