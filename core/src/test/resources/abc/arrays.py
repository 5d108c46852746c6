# Lists as the arrays of the standard's own library; for make-yard.py and make-odds.py.
import imath
from alembic3d.AbcCoreAbstract import *


def filled(array, values, make=lambda v: v):
    result = array(len(values))
    for i, value in enumerate(values):
        result[i] = make(value)
    return result


def v3(values):
    return filled(imath.V3fArray, values, lambda v: imath.V3f(*v))


def v2(values):
    return filled(imath.V2fArray, values, lambda v: imath.V2f(*v))


def ints(values):
    return filled(imath.IntArray, values)


def unsigned(values):
    return filled(imath.UnsignedIntArray, values)


def floats(values):
    return filled(imath.FloatArray, values)


def times(*seconds):
    result = TimeVector()
    for second in seconds:
        result.append(second)
    return result
