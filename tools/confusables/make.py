#!/usr/bin/env python3
"""Writes the table of characters that look alike (Unicode UTS 39, skeletons) beside the core's names.

Each line is what stands for a look, a tab, and the characters that have it. Asks the ICU library for the skeleton of each
character by itself; those that decompose are left out, since they are decomposed first. The result is committed.
"""
import ctypes, ctypes.util, glob, re, sys, unicodedata
from collections import defaultdict
from pathlib import Path

found = sorted(glob.glob('/usr/lib/*/libicui18n.so.*'))
library = next((path for path in found if re.search(r'\.so\.\d+$', path)), None)
if library is None:
    sys.exit('The ICU library is missing: apt-get install libicu-dev')
version = library.rsplit('.', 1)[1]
icu = ctypes.CDLL(library)
error = ctypes.c_int(0)
opened = getattr(icu, f'uspoof_open_{version}')
opened.restype = ctypes.c_void_p
checker = ctypes.c_void_p(opened(ctypes.byref(error)))
skeleton_of = getattr(icu, f'uspoof_getSkeletonUTF8_{version}')


def skeleton(text: str) -> str:
    given, room = text.encode(), ctypes.create_string_buffer(400)
    state = ctypes.c_int(0)
    length = skeleton_of(checker, 0, given, len(given), room, len(room), ctypes.byref(state))
    if state.value > 0:
        raise OSError(f'ICU error {state.value} at {given!r}')
    return room.raw[:length].decode()


looks: dict[str, list[str]] = defaultdict(list)
for code in range(0x20, 0x110000):
    if 0xD800 <= code <= 0xDFFF:
        continue
    letter = chr(code)
    # Blanks and controls are settled elsewhere; what decomposes is decomposed first.
    if unicodedata.category(letter) in ('Cc', 'Cf', 'Zs', 'Zl', 'Zp', 'Cn', 'Co') or unicodedata.normalize('NFD', letter) != letter:
        continue
    look = skeleton(letter)
    if look != letter and not re.search(r'[\t\r\n]', look):
        looks[look].append(letter)

target = Path(__file__).resolve().parents[2] / 'src/HoldCourt.Core/People/lookalikes.txt'
target.write_text(''.join(f'{look}\t{"".join(letters)}\n' for look, letters in sorted(looks.items())), encoding='utf-8')
print(f'{sum(map(len, looks.values()))} characters with {len(looks)} looks')
