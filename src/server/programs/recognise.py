"""Words of a recording with their times, by pocketsphinx's own library (libpocketsphinx3, through ctypes).

The command that comes with it can use one language model at a time; mixing the general one with one of the
class's own words is a call of the library (ngram_model_set_init), and so is made here.

usage: recognise.py MODEL_FOLDER RAW DICTIONARY [OWN_MODEL SHARE]
RAW is 16-bit mono at 16 kHz without a header. Prints one line a word: word, start and end in seconds, confidence.
The file "progress" says how much has been heard, from 0 to 1.
"""
import array
import ctypes
import os
import sys

RATE = 16_000
FRAMES = 100.0
ps = ctypes.CDLL("libpocketsphinx.so.3")
base = ctypes.CDLL("libsphinxbase.so.3")
pointer = ctypes.c_void_p


def says(library, name, result, *arguments):
    function = getattr(library, name)
    function.restype = result
    function.argtypes = list(arguments)
    return function


ps_args = says(ps, "ps_args", pointer)
ps_init = says(ps, "ps_init", pointer, pointer)
ps_get_logmath = says(ps, "ps_get_logmath", pointer, pointer)
ps_set_lm = says(ps, "ps_set_lm", ctypes.c_int, pointer, ctypes.c_char_p, pointer)
ps_set_search = says(ps, "ps_set_search", ctypes.c_int, pointer, ctypes.c_char_p)
ps_start_utt = says(ps, "ps_start_utt", ctypes.c_int, pointer)
ps_end_utt = says(ps, "ps_end_utt", ctypes.c_int, pointer)
ps_process_raw = says(ps, "ps_process_raw", ctypes.c_int, pointer, ctypes.c_char_p, ctypes.c_size_t, ctypes.c_int, ctypes.c_int)
ps_seg_iter = says(ps, "ps_seg_iter", pointer, pointer)
ps_seg_next = says(ps, "ps_seg_next", pointer, pointer)
ps_seg_word = says(ps, "ps_seg_word", ctypes.c_char_p, pointer)
ps_seg_frames = says(ps, "ps_seg_frames", None, pointer, pointer, pointer)
ps_seg_prob = says(ps, "ps_seg_prob", ctypes.c_int32, pointer, pointer, pointer, pointer)
logmath_exp = says(base, "logmath_exp", ctypes.c_double, pointer, ctypes.c_int)
ngram_model_read = says(base, "ngram_model_read", pointer, pointer, ctypes.c_char_p, ctypes.c_int, pointer)
ngram_model_set_init = says(base, "ngram_model_set_init", pointer, pointer, pointer, pointer, pointer, ctypes.c_int32)


def decoder(folder, dictionary, own, share):
    cmd_ln_init = base.cmd_ln_init
    cmd_ln_init.restype = pointer
    general = os.path.join(folder, "en-us.lm.bin")
    said = [b"-hmm", os.path.join(folder, "en-us").encode(), b"-dict", dictionary.encode(), b"-logfn", b"/dev/null", b"-remove_noise", b"yes"]
    if own is None:
        said += [b"-lm", general.encode()]
    config = cmd_ln_init(None, pointer(ps_args()), 1, *[ctypes.c_char_p(s) for s in said], None)
    made = ps_init(config)
    if not made:
        sys.exit("the decoder could not be made")
    if own is not None:
        log = ps_get_logmath(made)
        models = [ngram_model_read(config, path.encode(), 0, log) for path in (general, own)]
        if not all(models):
            sys.exit("a language model could not be read")
        names = (ctypes.c_char_p * 2)(b"general", b"own")
        weights = (ctypes.c_float * 2)(1 - share, share)
        both = ngram_model_set_init(config, (pointer * 2)(*models), names, weights, 2)
        if not both or ps_set_lm(made, b"both", both) != 0 or ps_set_search(made, b"both") != 0:
            sys.exit("the language models could not be mixed")
    return made


def words(made, offset):
    log = ps_get_logmath(made)
    segment = ps_seg_iter(made)
    while segment:
        word = ps_seg_word(segment).decode()
        first, last = ctypes.c_int(), ctypes.c_int()
        ps_seg_frames(segment, ctypes.byref(first), ctypes.byref(last))
        scores = [ctypes.c_int32() for _ in range(3)]
        sure = logmath_exp(log, ps_seg_prob(segment, *[ctypes.byref(s) for s in scores]))
        if not word.startswith(("<", "[", "+")):
            print(word.split("(")[0], round(offset + first.value / FRAMES, 2), round(offset + (last.value + 1) / FRAMES, 2), round(sure, 3), flush=True)
        segment = ps_seg_next(segment)


def stretches(sound):
    """The sound in parts of 15 to 25 s, cut where it is quietest: a long utterance costs more than its parts."""
    samples = array.array("h", sound[: len(sound) // 2 * 2])
    short, long, window = 15 * RATE, 25 * RATE, RATE // 5
    at = 0
    while len(samples) - at > long:
        places = range(at + short, at + long - window, window // 2)
        cut = min(places, key=lambda n: sum(abs(s) for s in samples[n:n + window:8])) + window // 2
        yield at, samples[at:cut].tobytes()
        at = cut
    yield at, samples[at:].tobytes()


def main():
    folder, raw, dictionary, *own = sys.argv[1:]
    made = decoder(folder, dictionary, own[0] if own else None, float(own[1]) if own else 0)
    with open(raw, "rb") as file:
        sound = file.read()
    for first, stretch in stretches(sound):
        ps_start_utt(made)
        for at in range(0, len(stretch), RATE):
            part = stretch[at:at + RATE]
            ps_process_raw(made, part, len(part) // 2, 0, 0)
            with open("progress", "w") as out:
                out.write(str(min(1, (first * 2 + at + len(part)) / len(sound))))
        ps_end_utt(made)
        words(made, first / RATE)


main()
