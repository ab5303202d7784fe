"""Colour spaces and differences: sRGB, linear light, OKLab, CIELAB (D65) and CIEDE2000."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]
Pixels = NDArray[np.uint8]

_CODES = np.arange(256) / 255.0
_LINEAR_TABLE = np.where(_CODES <= 0.04045, _CODES / 12.92, ((_CODES + 0.055) / 1.055) ** 2.4)
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""Weights of linear red, green and blue in relative luminance (IEC 61966-2-1)."""

_RGB_TO_LMS = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
_LMS_TO_OKLAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
_OKLAB_TO_LMS, _LMS_TO_RGB = np.linalg.inv(_LMS_TO_OKLAB), np.linalg.inv(_RGB_TO_LMS)
_RGB_TO_XYZ = np.array(
    [
        [0.4123907993, 0.3575843394, 0.1804807884],
        [0.2126390059, 0.7151686788, 0.0721923154],
        [0.0193308187, 0.1191947798, 0.9505321522],
    ]
)
_WHITE_D65 = _RGB_TO_XYZ.sum(axis=1)
_RGB_TO_XYZ_WHITE = _RGB_TO_XYZ / _WHITE_D65[:, None]


def linear_from_srgb8(pixels: Pixels) -> Floats:
    """Linear-light RGB in 0..1 of 8-bit sRGB codes, any shape (..., 3). Source: IEC 61966-2-1.

    >>> float(linear_from_srgb8(np.array([188], dtype=np.uint8))[0].round(3))
    0.503
    """
    return _LINEAR_TABLE[pixels]


def linear_from_srgb(values: ArrayLike) -> Floats:
    """Linear-light RGB of sRGB values in 0..1, any shape. Source: IEC 61966-2-1."""
    v = np.asarray(values, dtype=np.float64)
    return np.where(v <= 0.04045, v / 12.92, ((np.maximum(v, 0.04045) + 0.055) / 1.055) ** 2.4)


def srgb_from_linear(values: ArrayLike) -> Floats:
    """sRGB values in 0..1 of linear-light RGB, clipped to the gamut, any shape. Source: IEC 61966-2-1."""
    v = np.clip(np.asarray(values, dtype=np.float64), 0.0, 1.0)
    return np.where(v <= 0.0031308, v * 12.92, 1.055 * np.maximum(v, 0.0031308) ** (1 / 2.4) - 0.055)


def oklab_from_linear(rgb: ArrayLike) -> Floats:
    """OKLab of linear-light RGB, shape (..., 3): L in 0..1, a and b about -0.4..0.4.

    Source: B. Ottosson, "A perceptual color space for image processing" (2020).

    >>> oklab_from_linear([1.0, 1.0, 1.0]).round(3).tolist()
    [1.0, 0.0, 0.0]
    """
    lms = np.cbrt(np.maximum(np.asarray(rgb, dtype=np.float64), 0.0) @ _RGB_TO_LMS.T)
    return np.asarray(lms @ _LMS_TO_OKLAB.T + 0.0)


def linear_from_oklab(lab: ArrayLike) -> Floats:
    """Linear-light RGB of OKLab colours, shape (..., 3), not clipped: the inverse of oklab_from_linear.

    >>> linear_from_oklab(oklab_from_linear([0.2, 0.5, 0.9])).round(3).tolist()
    [0.2, 0.5, 0.9]
    """
    lms = (np.asarray(lab, dtype=np.float64) @ _OKLAB_TO_LMS.T) ** 3
    return np.asarray(lms @ _LMS_TO_RGB.T)


def lab_from_linear(rgb: ArrayLike) -> Floats:
    """CIELAB (D65 white) of linear-light RGB, shape (..., 3): L* in 0..100. Source: CIE 15:2004, 8.2.1.

    >>> lab_from_linear([1.0, 0.0, 0.0]).round(1).tolist()
    [53.2, 80.1, 67.2]
    """
    xyz = np.maximum(np.asarray(rgb, dtype=np.float64), 0.0) @ _RGB_TO_XYZ_WHITE.T
    f = np.where(xyz > (6 / 29) ** 3, np.cbrt(xyz), xyz * (29 / 6) ** 2 / 3 + 4 / 29)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], axis=-1)


def lab_from_srgb8(pixels: Pixels) -> Floats:
    """CIELAB of 8-bit sRGB codes, shape (..., 3)."""
    return lab_from_linear(linear_from_srgb8(pixels))


def delta_e_2000(lab_1: ArrayLike, lab_2: ArrayLike) -> Floats:
    """CIEDE2000 difference of two CIELAB colours, shapes (..., 3) broadcast; 1 is about a just noticeable step.

    Source: G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula", Color Res. Appl. 30 (2005),
    equations 2 to 22, with unit parametric factors.

    >>> float(delta_e_2000([50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485]).round(4))
    2.0425
    """
    x, y = np.asarray(lab_1, dtype=np.float64), np.asarray(lab_2, dtype=np.float64)
    l1, a1, b1 = x[..., 0], x[..., 1], x[..., 2]
    l2, a2, b2 = y[..., 0], y[..., 1], y[..., 2]
    mean_c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean_c7 / (mean_c7 + 25.0**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    neutral = c1 * c2 == 0
    dh = np.where(neutral, 0.0, (h2 - h1 + 180) % 360 - 180)
    dh = np.where(~neutral & (dh == -180) & (h2 > h1), 180.0, dh)
    mean_h = np.where(np.abs(h1 - h2) <= 180, (h1 + h2) / 2, (h1 + h2 + np.where(h1 + h2 < 360, 360, -360)) / 2)
    mean_h = np.where(neutral, h1 + h2, mean_h)
    dl, dc = l2 - l1, c2 - c1
    dh_big = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(dh) / 2)
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    t = (
        1
        - 0.17 * np.cos(np.radians(mean_h - 30))
        + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6))
        - 0.20 * np.cos(np.radians(4 * mean_h - 63))
    )
    s_l = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    s_c, s_h = 1 + 0.045 * mean_c, 1 + 0.015 * mean_c * t
    r_c = 2 * np.sqrt(mean_c**7 / (mean_c**7 + 25.0**7))
    r_t = -np.sin(np.radians(60 * np.exp(-(((mean_h - 275) / 25) ** 2)))) * r_c
    squared = (dl / s_l) ** 2 + (dc / s_c) ** 2 + (dh_big / s_h) ** 2 + r_t * (dc / s_c) * (dh_big / s_h)
    return np.asarray(np.sqrt(np.maximum(squared, 0.0)))


def hex_from_linear(rgb: ArrayLike) -> str:
    """The `#rrggbb` code of one linear-light colour, shape (3,)."""
    r, g, b = np.rint(srgb_from_linear(rgb) * 255).astype(int)
    return f"#{r:02x}{g:02x}{b:02x}"


def linear_from_hex(code: str) -> Floats:
    """Linear-light RGB, shape (3,), of a `#rrggbb` code. Raises ValueError for anything else.

    >>> hex_from_linear(linear_from_hex("#d9a326"))
    '#d9a326'
    """
    digits = code.strip().removeprefix("#")
    if len(digits) != 6:
        raise ValueError(f"“{code}” is not a colour of the form #rrggbb.")
    try:
        parts = [int(digits[i : i + 2], 16) for i in (0, 2, 4)]
    except ValueError as error:
        raise ValueError(f"“{code}” is not a colour of the form #rrggbb.") from error
    return linear_from_srgb(np.array(parts) / 255.0)


def distances(one: Floats, other: Floats) -> Floats:
    """Euclidean distances between colours (n, 3) and (m, 3), shape (n, m)."""
    squared = ((one**2) @ np.ones(3))[:, None] - 2 * one @ other.T + ((other**2) @ np.ones(3))[None]
    return np.asarray(np.sqrt(np.maximum(squared, 0.0)))
