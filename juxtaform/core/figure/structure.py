"""Local structure of a figure: RootSIFT keypoints and how many of them agree under one affine map."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from juxtaform.core.colour.spaces import Pixels

MOST_KEYPOINTS = 160
"""The strongest keypoints of a figure that are compared."""
RATIO = 0.85
"""Lowe's ratio between the best and the second match (D. Lowe, IJCV 60, 2004, section 7.1); loose, RANSAC sorts out."""


@dataclass(frozen=True)
class Structure:
    """Keypoints (n, 2) in pixels and their RootSIFT descriptors (n, 128), of a figure and of its mirror image."""

    points: NDArray[np.float32]
    descriptors: NDArray[np.float32]
    mirrored_points: NDArray[np.float32]
    mirrored_descriptors: NDArray[np.float32]


def structure(pixels: Pixels, mirrored: bool = False) -> Structure:
    """Structure of an RGB crop (h, w, 3) at working size; its mirror image is described only when asked for.

    RootSIFT: R. Arandjelovic and A. Zisserman, "Three things everyone should know" (CVPR 2012), section 3.
    """
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)
    stretched = np.asarray(cv2.normalize(grey, None, 0, 255, cv2.NORM_MINMAX), dtype=np.uint8)  # type: ignore[call-overload]
    points, descriptors = _root_sift(stretched)
    if not mirrored:
        empty = np.zeros((0, 2), np.float32), np.zeros((0, 128), np.float32)
        return Structure(points, descriptors, *empty)
    return Structure(points, descriptors, *_root_sift(np.ascontiguousarray(stretched[:, ::-1])))


def agreement(reference: Structure, seen: Structure) -> float:
    """How far two figures share local structure, 0..1: affine inliers over the geometric mean of keypoint counts.

    The better of the reference and its mirror image counts. Fewer than four matches give 0.
    """
    return max(
        _inliers(reference.points, reference.descriptors, seen),
        _inliers(reference.mirrored_points, reference.mirrored_descriptors, seen),
    )


def _root_sift(grey: NDArray[np.uint8]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    sift = cv2.SIFT.create(nfeatures=MOST_KEYPOINTS, nOctaveLayers=3, contrastThreshold=0.03)
    found, descriptors = sift.detectAndCompute(grey, None)
    if descriptors is None or not len(found):
        return np.zeros((0, 2), np.float32), np.zeros((0, 128), np.float32)
    rooted = np.sqrt(descriptors / np.maximum(descriptors.sum(axis=1, keepdims=True), 1e-7))
    return np.array([k.pt for k in found], np.float32), rooted.astype(np.float32)


def _inliers(points: NDArray[np.float32], descriptors: NDArray[np.float32], seen: Structure) -> float:
    if len(points) < 4 or len(seen.points) < 4:
        return 0.0
    likeness = descriptors @ seen.descriptors.T
    order = np.argsort(-likeness, axis=1)[:, :2]
    rows = np.arange(len(points))
    best, second = likeness[rows, order[:, 0]], likeness[rows, order[:, 1]]
    apart, apart_second = np.sqrt(np.maximum(0, 2 - 2 * best)), np.sqrt(np.maximum(1e-9, 2 - 2 * second))
    kept = apart < RATIO * apart_second
    if kept.sum() < 4:
        return 0.0
    cv2.setRNGSeed(7)
    _, inlier = cv2.estimateAffine2D(points[kept], seen.points[order[kept, 0]], ransacReprojThreshold=5.0, maxIters=300)
    if inlier is None:
        return 0.0
    count = max(0, int(inlier.sum()) - 3)
    return min(1.0, count / float(np.sqrt(len(points) * len(seen.points))))
