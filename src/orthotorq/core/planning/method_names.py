"""Names of the shipped methods: ids that plans may use without defining them."""

METHOD_NAMES = (
    "rising_cross",
    "snug_steps_circle",
    "wheel",
    "over_torque_rounds",
    "torque_angle",
    "back_off",
    "even_draw",
    "single_repeat",
    "settle",
    "preset",
    "feel",
)
