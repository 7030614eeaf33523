"""Shuts a process of ours in: no network, and no file but those it is told, beside the libraries it runs on.

Linux only, by Landlock (kernel 5.13 on; network from 6.7 on) and a network namespace of its own. Where the
kernel has neither, the process is as open as any other; libav still has no way to other files
(media/picture.py).
"""

import ctypes
import os
import signal
import struct
import sys
import sysconfig
from collections.abc import Iterable
from pathlib import Path

# include/uapi/linux/landlock.h
_CREATE_RULESET, _ADD_RULE, _RESTRICT_SELF = 444, 445, 446
_VERSION_FLAG = 1
_PATH_BENEATH = 1
_EXECUTE, _WRITE_FILE, _READ_FILE, _READ_DIR = 1, 2, 4, 8
_ALL_OF_VERSION_1 = (1 << 13) - 1
_REFER, _TRUNCATE, _IOCTL_DEV = 1 << 13, 1 << 14, 1 << 15
_NET_TCP = 3  # bind and connect
_SCOPES = 3  # abstract sockets and signals of others

_PARENT_DEATH_SIGNAL, _NO_NEW_PRIVS = 1, 38  # prctl
_NEW_USER, _NEW_NET = 0x10000000, 0x40000000  # unshare

_libc = ctypes.CDLL(None, use_errno=True)


def landlock_version() -> int:
    """Which version of Landlock the kernel has; 0 for none."""
    return max(0, _libc.syscall(_CREATE_RULESET, None, 0, _VERSION_FLAG)) if sys.platform == "linux" else 0


def end_with_parent() -> None:
    """Have this process killed when the one that started it ends, however that ends."""
    if sys.platform == "linux":
        _libc.prctl(_PARENT_DEATH_SIGNAL, signal.SIGKILL, 0, 0, 0)


def leave_network() -> bool:
    """Go into a network of one's own, in which there is nothing. Whether that could be done.

    Must come before anything starts a thread. Where it takes a user namespace, our own ids are kept in it, or
    no file could be made.
    """
    if sys.platform != "linux":
        return False
    if _libc.unshare(_NEW_NET) == 0:
        return True
    user, group = os.getuid(), os.getgid()
    if _libc.unshare(_NEW_USER | _NEW_NET) != 0:
        return False
    for name, line in (
        ("setgroups", "deny"),
        ("uid_map", f"{user} {user} 1"),
        ("gid_map", f"{group} {group} 1"),
    ):
        Path(f"/proc/self/{name}").write_text(line)
    return True


def confine(readable: Iterable[Path], writable: Iterable[Path]) -> int:
    """From here on this process can open only these files and folders, and what Python and libraries lie in.

    Returns:
        The version of Landlock that does it; 0 where the kernel has none.

    Raises:
        OSError: the kernel has it, but refused.
    """
    version = landlock_version()
    if version < 1:
        return 0
    handled = _ALL_OF_VERSION_1
    handled |= (
        (_REFER if version >= 2 else 0)
        | (_TRUNCATE if version >= 3 else 0)
        | (_IOCTL_DEV if version >= 5 else 0)
    )
    attributes = struct.pack("<QQQ", handled, _NET_TCP if version >= 4 else 0, _SCOPES if version >= 6 else 0)
    size = 8 if version < 4 else 16 if version < 6 else 24
    ruleset = _checked(_libc.syscall(_CREATE_RULESET, attributes, size, 0))
    look = _READ_FILE | _READ_DIR
    for path in _system():
        _allow(ruleset, path, look | _EXECUTE)
    for path in readable:
        _allow(ruleset, path, look)
    for path in writable:
        _allow(ruleset, path, handled & ~_EXECUTE)
    _checked(_libc.prctl(_NO_NEW_PRIVS, 1, 0, 0, 0))
    _checked(_libc.syscall(_RESTRICT_SELF, ruleset, 0))
    os.close(ruleset)
    return version


def _system() -> set[Path]:
    """Where Python, its packages, shared libraries and what they ask of the machine lie."""
    ours = Path(__file__).resolve().parents[2]
    known: list[str | Path] = [sys.prefix, sys.base_prefix, *sysconfig.get_paths().values(), ours]
    known += ["/usr", "/lib", "/lib64", "/etc/ld.so.cache", "/proc/self", "/proc/cpuinfo", "/proc/meminfo"]
    known += ["/sys/devices/system", "/dev/null", "/dev/urandom", "/dev/zero", "/nix", "/opt"]
    return {Path(path).resolve() for path in known if Path(path).exists()}


def _allow(ruleset: int, path: Path, access: int) -> None:
    if not path.is_dir():
        access &= _EXECUTE | _WRITE_FILE | _READ_FILE | _TRUNCATE | _IOCTL_DEV  # what there is for a file
    handle = os.open(path, os.O_PATH | os.O_CLOEXEC)
    try:
        rule = struct.pack("<Qi", access, handle)
        _checked(_libc.syscall(_ADD_RULE, ruleset, _PATH_BENEATH, rule, 0))
    finally:
        os.close(handle)


def _checked(result: int) -> int:
    if result < 0:
        number = ctypes.get_errno()
        raise OSError(number, os.strerror(number))
    return result
