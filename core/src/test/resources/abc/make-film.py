# Writes film.abc with the standard's own library: python make-film.py film.abc, with alembic3d 1.8.12.1.
# getScreenWindow() of the sample says: top 2.166667, bottom -1.833333, left -1.35, right 2.65.
import sys

import imath
from alembic3d import AbcGeom as G
from alembic3d.Abc import *

archive = OArchive(sys.argv[1])
eye = G.OCamera(archive.getTop(), "eye")
sample = G.CameraSample()
sample.setHorizontalAperture(3.6)
sample.setVerticalAperture(2.4)
sample.setFocalLength(35)
kinds = G.FilmBackXformOperationType
op = G.FilmBackXformOp(kinds.kTranslateFilmBackOperation, "offset")
op.setTranslate(imath.V2d(0.25, -0.5))
sample.addOp(op)
op = G.FilmBackXformOp(kinds.kScaleFilmBackOperation, "fit")
op.setScale(imath.V2d(2, 3))
sample.addOp(op)
op = G.FilmBackXformOp(kinds.kMatrixFilmBackOperation, "m")
op.setMatrix(imath.M33d(1, 0, 0, 0, 1, 0, 0.1, 0.2, 1))
sample.addOp(op)
sample.setHorizontalFilmOffset(0.36)
sample.setVerticalFilmOffset(0.12)
print(sample.getScreenWindow())
eye.getSchema().set(sample)
del archive
