"""Edits of lists with what the standard's own library makes of them (usd-core 26.11, PyPI): explicit, added,
prepended, appended, deleted, ordered, the weaker list, the result; each apart by |, - for none."""
import random

from pxr import Sdf

random.seed(5)


def some(most):
    names = list('abcdefgh')
    random.shuffle(names)
    return names[:random.randint(0, most)]


with open('lists.txt', 'w') as out:
    for i in range(120):
        op = Sdf.TokenListOp()
        explicit = i % 10 == 0
        parts = [None] + [some(3) if random.random() < 0.6 else [] for _ in range(5)]
        if explicit:
            parts = [some(4), [], [], [], [], []]
            op.explicitItems = parts[0]
        else:
            (op.addedItems, op.prependedItems, op.appendedItems, op.deletedItems,
             op.orderedItems) = parts[1:]
        weaker = some(8)
        result = op.ApplyOperations(weaker)
        told = ['-' if p is None else ' '.join(p) for p in parts] + [' '.join(weaker), ' '.join(result)]
        out.write('|'.join(told) + '\n')
