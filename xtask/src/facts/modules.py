"""Prints the names of the standard modules, or what they offer."""
import builtins
import importlib
import sys
import types
import warnings

INSIDE = {
    "collections": ["collections.abc"],
    "concurrent": ["concurrent.futures"],
    "email": ["email.message", "email.utils", "email.header", "email.mime.text", "email.mime.multipart", "email.mime.base"],
    "http": ["http.client", "http.server", "http.cookies", "http.cookiejar"],
    "importlib": ["importlib.metadata", "importlib.util", "importlib.resources", "importlib.machinery", "importlib.abc"],
    "json": ["json.decoder", "json.encoder"],
    "logging": ["logging.handlers", "logging.config"],
    "multiprocessing": ["multiprocessing.pool", "multiprocessing.managers", "multiprocessing.shared_memory"],
    "os": ["os.path"],
    "unittest": ["unittest.mock"],
    "urllib": ["urllib.parse", "urllib.request", "urllib.error"],
    "wsgiref": ["wsgiref.simple_server", "wsgiref.util"],
    "xml": ["xml.etree.ElementTree", "xml.dom.minidom", "xml.sax"],
}
UNWANTED = {"antigravity", "this", "idlelib", "turtledemo", "test", "lib2to3", "tkinter", "turtle"}
THERE = "__file__ __name__ __path__ __doc__ __spec__ __loader__ __package__ __annotations__ __class__ __dict__ __module__ __qualname__ WindowsError reveal_type"


def offered(name):
    module = importlib.import_module(name)
    names = getattr(module, "__all__", None)
    if names is None:
        here = lambda value: not isinstance(value, types.ModuleType) and getattr(value, "__module__", name) == name
        names = [own for own in dir(module) if not own.startswith("_") and here(getattr(module, own))]
    return sorted(set(names))


def main():
    warnings.simplefilter("ignore")
    version = "%d.%d" % sys.version_info[:2]
    if sys.argv[-1] == "modules":
        print(f"# Python {version}: standard modules")
        print(" ".join(sorted(sys.stdlib_module_names)))
        return
    print(f"# Python {version}: what modules of the standard library offer")
    print("builtins", " ".join(sorted(dir(builtins))), THERE)
    for top in sorted(sys.stdlib_module_names):
        if top.startswith("_") or top in UNWANTED:
            continue
        for name in [top, *INSIDE.get(top, [])]:
            try:
                print(name, " ".join(offered(name)))
            except Exception:
                continue


main()
