# Writes yard.abc with the standard's own library: python make-yard.py yard.abc, with alembic3d 1.8.12.1.
import sys

import imath
from alembic3d import AbcGeom as G
from alembic3d.Abc import *
from alembic3d.AbcCoreAbstract import *
from arrays import *

archive = OArchive(sys.argv[1])
steady = archive.addTimeSampling(TimeSampling(1 / 24.0, 1 / 24.0))
acyclic = archive.addTimeSampling(
    TimeSampling(TimeSamplingType(AcyclicFlag.kAcyclic), times(-1.0, 2 / 24.0, 5 / 24.0))
)
cyclic = archive.addTimeSampling(TimeSampling(TimeSamplingType(2, 0.5), times(0.1, 0.2)))
top = archive.getTop()

# Moves, and does not inherit at its last sample.
yard = G.OXform(top, "yard")
schema = yard.getSchema()
schema.setTimeSampling(steady)
for i in range(3):
    sample = G.XformSample()
    sample.addOp(G.XformOp(G.XformOperationType.kTranslateOperation, 0), imath.V3d(i, 2, 3))
    sample.addOp(G.XformOp(G.XformOperationType.kRotateYOperation, 0), 30.0)
    sample.setInheritsXforms(i != 2)
    schema.set(sample)
user = schema.getUserProperties()
OStringProperty(user, "berth").setValue("Hafen Süd")
OInt32Property(user, "depth").setValue(-7)
OUInt64Property(user, "serial").setValue(1 << 30)
OHalfProperty(user, "draught").setValue(1.5)
OWstringProperty(user, "flag").setValue("Öl")
OBoolProperty(user, "lit").setValue(True)
stops = OStringArrayProperty(user, "stops")
stops.setValue(filled(imath.StringArray, ["quay", "", "mole"]))

# Does not follow the yard that moves under it.
crane = G.OXform(yard, "crane")
schema = crane.getSchema()
schema.setTimeSampling(steady)
for i in range(2):
    sample = G.XformSample()
    sample.addOp(G.XformOp(G.XformOperationType.kTranslateOperation, 0), imath.V3d(5 + i, 0, 0))
    sample.setInheritsXforms(False)
    schema.set(sample)

# A quad and a triangle, clockwise; the first two samples are one, the third and fourth move up.
points = [(0, 0, 0), (2, 0, 0), (2, 1, 0), (0, 1, 0), (1, 2, 0)]
faces, counts = ints([0, 3, 2, 1, 3, 4, 2]), ints([4, 3])
plank = G.OPolyMesh(yard, "plank")
schema = plank.getSchema()
schema.setTimeSampling(steady)
uvs = G.OV2fGeomParamSample(
    v2([(0, 0), (1, 0), (1, 1), (0, 1), (0.5, 1)]),
    unsigned([0, 3, 2, 1, 3, 4, 2]),
    G.GeometryScope.kFacevaryingScope,
)
normals = G.ON3fGeomParamSample(v3([(0, 0, 1)] * 7), G.GeometryScope.kFacevaryingScope)
for i, up in enumerate([0, 0, 0.25, 0.5, 0.5]):
    moved = v3([(x, y + up, z) for x, y, z in points])
    schema.set(
        G.OPolyMeshSchemaSample(moved, faces, counts, uvs, normals)
        if i == 0
        else G.OPolyMeshSchemaSample(moved)
    )
schema.createFaceSet("oak").getSchema().set(G.OFaceSetSchemaSample(ints([1])))
seen = G.CreateVisibilityProperty(plank, steady)
for value in (1, 0, -1):
    seen.setValue(value)

# Empty at first, then a quad: its faces change.
mist = G.OPolyMesh(top, "mist")
schema = mist.getSchema()
schema.setTimeSampling(acyclic)
schema.set(G.OPolyMeshSchemaSample(v3([]), ints([]), ints([])))
schema.set(G.OPolyMeshSchemaSample(v3(points), ints([0, 3, 2, 1]), ints([4])))
schema.set(G.OPolyMeshSchemaSample(v3(points), faces, counts))

buoy = G.OSubD(top, "buoy")
sample = G.OSubDSchemaSample(v3(points), ints([0, 3, 2, 1]), ints([4]))
sample.setCreases(ints([0, 1]), ints([2]), floats([2.5]))
sample.setCorners(ints([2]), floats([4]))
buoy.getSchema().set(sample)

spray = G.OPoints(top, "spray")
spray.getSchema().set(G.OPointsSchemaSample(v3([(0, 1, 0), (0, 2, 0)])))

rope = G.OCurves(top, "rope")
rope.getSchema().set(
    G.OCurvesSchemaSample(
        v3([(0, 0, 0), (1, 0, 0), (2, 1, 0), (0, 0, 1), (0, 0, 2)]),
        ints([3, 2]),
        G.CurveType.kLinear,
        G.CurvePeriodicity.kNonPeriodic,
    )
)

eye = G.OCamera(yard, "eye")
schema = eye.getSchema()
schema.setTimeSampling(cyclic)
for focal in (35.0, 50.0):
    sample = G.CameraSample()
    sample.setFocalLength(focal)
    sample.setHorizontalAperture(3.6)
    sample.setVerticalAperture(2.4)
    sample.setNearClippingPlane(0.5)
    sample.setFarClippingPlane(500)
    schema.set(sample)

top.addChildInstance(yard, "second yard")
del archive
