# Makes the local environment in .venv from requirements.lock; sourced by ./cooper and ./check.
# A mark with the lock's hash is written last, so an interrupted set-up is noticed and begun again.

# Of Qt and of the STEP kernel.
SYSTEM_PACKAGES="libx11-6 libexpat1 libstdc++6 libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libfontconfig1 libdbus-1-3 libglib2.0-0 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0 libxcb-xinerama0 libxcb-xkb1"
SYSTEM_LIBRARIES="libX11.so.6 libexpat.so.1 libstdc++.so.6 libEGL.so.1 libGL.so.1 libxkbcommon.so.0 libxkbcommon-x11.so.0 libfontconfig.so.1 libdbus-1.so.3 libglib-2.0.so.0 libxcb-cursor.so.0 libxcb-icccm.so.4 libxcb-image.so.0 libxcb-keysyms.so.1 libxcb-randr.so.0 libxcb-render-util.so.0 libxcb-shape.so.0 libxcb-xkb.so.1"

install_debian() {  # packages...
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
        echo "Installing with apt: $*" >&2
        apt-get update -qq >&2 || true
        DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null
    else
        echo "Cooper needs these system packages: $* (as root: apt-get install $*)" >&2
        exit 1
    fi
}

ensure_environment() {  # folder of the project
    local here="$1" mark="$1/.venv/complete" want missing="" lib cache
    want="$(sha256sum < "$here/requirements.lock")"
    if [ -f "$mark" ] && [ "$(cat "$mark")" = "$want" ]; then return; fi
    (
        exec 9> "$here/.venv.lock"
        flock 9
        # Another start may have finished the set-up while this one waited.
        if [ -f "$mark" ] && [ "$(cat "$mark")" = "$want" ]; then exit 0; fi
        command -v python3 >/dev/null || install_debian python3
        python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || {
            echo "Cooper needs Python 3.11 or newer; python3 here is $(python3 --version)." >&2
            exit 1
        }
        python3 -c 'import ensurepip, venv' 2>/dev/null || install_debian python3-venv
        cache="$(PATH="$PATH:/sbin:/usr/sbin" ldconfig -p 2>/dev/null || true)"
        for lib in $SYSTEM_LIBRARIES; do
            case "$cache" in *"$lib"*) ;; *) missing=yes ;; esac
        done
        # shellcheck disable=SC2086
        [ -z "$missing" ] || install_debian $SYSTEM_PACKAGES
        echo "Setting up Cooper's environment (first start, or its packages have changed) ..." >&2
        rm -rf "$here/.venv"
        python3 -m venv "$here/.venv"
        "$here/.venv/bin/python" -m pip install --quiet --quiet --disable-pip-version-check --require-hashes --only-binary :all: \
            -r "$here/requirements.lock" >&2
        "$here/.venv/bin/python" -m compileall -q "$here/src" >/dev/null || true
        printf '%s\n' "$want" > "$mark"
    )
}
