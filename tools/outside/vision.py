# What a general image library finds in the same pixels: read by tools/outside.mjs, which holds it against Arkiv's own.
import json
import sys

import cv2
import numpy as np


def grey(entry):
    data = np.fromfile(entry['file'], dtype=np.uint8)
    return data.reshape(entry['height'], entry['width'])


def bits(values):
    return [int(v) for v in values.flatten()]


def hashes(small):
    resized = cv2.resize(small.astype(np.float32), (9, 8), interpolation=cv2.INTER_AREA)
    square = cv2.resize(small.astype(np.float32), (32, 32), interpolation=cv2.INTER_AREA)
    terms = cv2.dct(square)[:8, :8].flatten()
    median = np.sort(terms[1:])[31]
    cosine = terms > median
    cosine[0] = False
    return {'difference': bits(resized[:, 1:] > resized[:, :-1]), 'cosine': bits(cosine)}


def laplacian(picture, across, down, size):
    found = cv2.Laplacian(picture, cv2.CV_64F, ksize=1) ** 2
    height, width = picture.shape
    tiles = []
    for ty in range(down):
        for tx in range(across):
            part = (
                slice(max(1, ty * size), min(height - 1, (ty + 1) * size)),
                slice(max(1, tx * size), min(width - 1, (tx + 1) * size)),
            )
            tiles.append([float(found[part].mean()), float(picture[part].mean())])
    return tiles


def registered(first, second):
    orb = cv2.ORB_create(600)
    a, da = orb.detectAndCompute(first, None)
    b, db = orb.detectAndCompute(second, None)
    if da is None or db is None:
        return None
    pairs = [
        m[0]
        for m in cv2.BFMatcher(cv2.NORM_HAMMING).knnMatch(da, db, k=2)
        if len(m) == 2 and m[0].distance < 0.8 * m[1].distance
    ]
    if len(pairs) < 3:
        return None
    source = np.float32([a[m.queryIdx].pt for m in pairs])
    target = np.float32([b[m.trainIdx].pt for m in pairs])
    cv2.setRNGSeed(7)
    way, inliers = cv2.estimateAffinePartial2D(source, target, method=cv2.RANSAC, ransacReprojThreshold=6)
    if way is None:
        return None
    return {'way': way.tolist(), 'inliers': int(inliers.sum())}


def ssim(a, b, where):
    """Wang et al. 2004, with a Gaussian window of 1.5 pixels; over the pixels that both show."""
    a, b = a.astype(np.float64), b.astype(np.float64)
    mean = lambda x: cv2.GaussianBlur(x, (11, 11), 1.5)
    ma, mb = mean(a), mean(b)
    va, vb, ab = mean(a * a) - ma * ma, mean(b * b) - mb * mb, mean(a * b) - ma * mb
    c1, c2 = (0.01 * 255) ** 2, (0.03 * 255) ** 2
    each = ((2 * ma * mb + c1) * (2 * ab + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2))
    return float(each[where].mean())


def overlaid(first, second, way):
    """The second picture where the first one is."""
    height, width = first.shape
    matrix = np.float64(way)
    over = cv2.warpAffine(second, matrix, (width, height), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)
    seen = cv2.warpAffine(np.full_like(second, 255), matrix, (width, height), flags=cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP)
    return over, cv2.erode(seen, np.ones((13, 13))) > 0


def pair(entry):
    first, second = grey(entry['first']), grey(entry['second'])
    theirs = registered(first, second)
    answer = {'theirs': theirs}
    if entry['way'] is not None and theirs is not None:
        for name, way in [('ours', entry['way']), ('library', theirs['way'])]:
            over, seen = overlaid(first, second, way)
            answer[name] = ssim(first, over, seen) if seen.any() else None
    return answer


def main():
    with open(sys.argv[1]) as file:
        asked = json.load(file)
    answer = {
        'pictures': [
            {
                **hashes(grey(one['small'])),
                'tiles': laplacian(grey(one['grey']), one['across'], one['down'], one['size']),
            }
            for one in asked['pictures']
        ],
        'pairs': [pair(one) for one in asked['pairs']],
    }
    json.dump(answer, sys.stdout)


main()
