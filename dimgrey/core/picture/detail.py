"""What a setup does to fine detail: clarity, sharpening, noise reduction and grain, at the size they will be seen.

Each works on lightness. Clarity and sharpening are unsharp masks of a wide and a narrow radius; grain is noise of a size,
strongest in the middle greys, as of film. The effects are for judging by eye; cameras differ.
"""

import numpy as np

CLARITY_PX, SHARPENING_PX = 18.0, 1.0
CLARITY_AMOUNT, SHARPENING_AMOUNT = 0.6, 1.4
GRAIN_L = 7.0
"""Standard deviation of full grain in L*, in the middle greys."""
SMOOTHING_PX = 1.2


def finished(l_star, made, rng):
    """Lightness after a setup's detail effects.

    l_star: shape (h, w), 0..100. made: core Setup. rng: numpy Generator, for the grain. Returns the same shape.
    """
    from scipy.ndimage import gaussian_filter

    field = np.asarray(l_star, float)
    smoothing = max(made.effect("noise reduction"), 0.0) * SMOOTHING_PX
    if smoothing:
        field = gaussian_filter(field, smoothing, mode="nearest")
    for effect, radius, amount in (
        ("clarity", CLARITY_PX, CLARITY_AMOUNT),
        ("sharpening", SHARPENING_PX, SHARPENING_AMOUNT),
    ):
        strength = made.effect(effect)
        if strength:
            blurred = gaussian_filter(field, radius, mode="nearest")
            field = field + (field - blurred) * amount * max(strength, -0.6)
    grain = made.effect("grain")
    if grain:
        noise = rng.normal(size=field.shape)
        size = 0.3 + 1.4 * made.effect("grain size")
        noise = gaussian_filter(noise, size, mode="wrap")
        noise /= noise.std() or 1.0
        field = field + noise * GRAIN_L * grain * np.sqrt(np.clip(field * (100 - field), 0, None)) / 50
    return np.clip(field, 0, 100)
