"""Values by ISO symbol, as attributes: of a mesh, of a gear, of a train. Their meanings stand in `quantities`."""

from __future__ import annotations

from collections.abc import Callable, ItemsView, Iterator, KeysView, Mapping, MutableMapping, ValuesView
from typing import TYPE_CHECKING, Generic, Self, TypeVar

T = TypeVar("T")


class Values(MutableMapping[str, T], Generic[T]):
    """Values that are read and given as attributes named by ISO symbols; at the edge, where the symbol is data, as a
    mapping.

    What a kind of pair or a method does not have is absent. After `freeze` nothing can be altered. What few ask for may
    come `later`: it is found when it is first asked for, or when all are listed, and stands there as if it always had.

    >>> v = TrainValues(u=4.0).freeze()
    >>> v.u, v["u"], "eta" in v
    (4.0, 4.0, False)
    """

    __slots__ = ("__dict__", "_later", "_shut")
    _shut: bool
    _later: tuple[frozenset[str], Callable[[], Mapping[str, T]]] | None

    def __init__(self, **values: T) -> None:
        object.__setattr__(self, "_shut", False)
        object.__setattr__(self, "_later", None)
        self.__dict__.update(values)

    def later(self, symbols: frozenset[str], find: Callable[[], Mapping[str, T]]) -> None:
        """Let ``find`` give these symbols, or some of them, when one of them is asked for.

        >>> v = TrainValues(u=4.0)
        >>> v.later(frozenset({"eta"}), lambda: {"eta": 0.97})
        >>> len(v), v.freeze().eta
        (2, 0.97)
        """
        object.__setattr__(self, "_later", (symbols, find))

    def replace_unchecked(self, **more: T) -> Self:
        """The same values but these, final as those."""
        result = self.copy(**more)
        object.__setattr__(result, "_later", self._later)
        object.__setattr__(result, "_shut", self._shut)
        return result

    def copy(self, **more: T) -> Self:
        """What stands here, and these, for somebody who adds to them; what is to come later does not come along."""
        result = type(self)(**self.__dict__)
        result.__dict__.update(more)
        return result

    # What a mapping has is asked so often that it is not left to the general way of all mappings.

    def items(self) -> ItemsView[str, T]:
        self._come()
        return self.__dict__.items()

    def keys(self) -> KeysView[str]:
        self._come()
        return self.__dict__.keys()

    def values(self) -> ValuesView[T]:
        self._come()
        return self.__dict__.values()

    if not TYPE_CHECKING:

        def update(self, *others: Mapping[str, T], **more: T) -> None:
            if self._shut:
                raise AttributeError(f"{', '.join(more)}: these values are final")
            self.__dict__.update(*others, **more)

    def _come(self) -> None:
        """Find what was to come later."""
        if self._later is not None:
            find = self._later[1]
            object.__setattr__(self, "_later", None)
            self.__dict__.update({k: v for k, v in find().items() if k not in self.__dict__})

    if not TYPE_CHECKING:

        def __getattr__(self, symbol: str) -> T:
            """Only what is not there is looked for here."""
            if symbol.startswith("_") or symbol not in self:
                raise AttributeError(symbol)
            return self.__dict__[symbol]

    def freeze(self) -> Self:
        """The same values, which nothing can alter any more."""
        object.__setattr__(self, "_shut", True)
        return self

    def __setattr__(self, symbol: str, value: T) -> None:
        if self._shut:
            raise AttributeError(f"{symbol}: these values are final")
        self.__dict__[symbol] = value

    __setitem__ = __setattr__

    def __delitem__(self, symbol: str) -> None:
        if self._shut:
            raise AttributeError(f"{symbol}: these values are final")
        del self.__dict__[symbol]

    def __getitem__(self, symbol: str) -> T:
        if symbol not in self.__dict__ and symbol not in self:
            raise KeyError(symbol)
        result: T = self.__dict__[symbol]
        return result

    def __iter__(self) -> Iterator[str]:
        self._come()
        return iter(self.__dict__)

    def __len__(self) -> int:
        self._come()
        return len(self.__dict__)

    def __contains__(self, symbol: object) -> bool:
        if symbol in self.__dict__:
            return True
        if self._later is None or symbol not in self._later[0]:
            return False
        self._come()
        return symbol in self.__dict__

    def __getstate__(self) -> tuple[dict[str, T], bool]:
        self._come()
        return dict(self.__dict__), self._shut

    def __setstate__(self, state: tuple[dict[str, T], bool]) -> None:
        object.__setattr__(self, "_shut", state[1])
        object.__setattr__(self, "_later", None)
        self.__dict__.update(state[0])

    def __repr__(self) -> str:
        return f"{type(self).__name__}({', '.join(f'{k}={v!r}' for k, v in self.items())})"


class MeshValues(Values[T]):
    """What two gears have in common: geometry of the mesh, load, load factors, losses."""

    a: T
    A_v: T
    a_w: T
    alpha_n: T
    alpha_t: T
    alpha_wt: T
    b_H: T
    beta: T
    beta_b: T
    C_ay: T
    c_gamma: T
    C_R: T
    c_s: T
    c_tip: T
    eps_alpha: T
    eps_beta: T
    eps_gamma: T
    eta_oil: T
    eta_z: T
    F_a: T
    f_alphaeff: T
    F_betax: T
    F_betay: T
    F_bt: T
    f_faeff: T
    f_ma: T
    f_pbeff: T
    F_r: T
    f_sh: T
    F_t: T
    F_w: T
    f_ZCa: T
    g_A: T
    g_alpha: T
    g_B: T
    g_C: T
    g_D: T
    g_E: T
    g_fl: T
    g_GF: T
    h_GF: T
    H_V: T
    j_bn_max: T
    j_bn_min: T
    j_heat: T
    j_op: T
    j_op_max: T
    j_op_min: T
    j_rss_max: T
    j_rss_min: T
    j_wt: T
    j_wt_max: T
    j_wt_min: T
    K_A: T
    K_AP: T
    K_Falpha: T
    K_Fbeta: T
    K_gamma: T
    K_HA: T
    K_Halpha: T
    K_Hbeta: T
    K_peak: T
    K_s: T
    K_V: T
    K_vA: T
    lambda_GF: T
    lambda_GFP: T
    lambda_GFT: T
    lambda_t: T
    m_n: T
    m_N: T
    m_red: T
    mu_m: T
    mu_mC: T
    mu_mz: T
    mu_pl: T
    n_E1: T
    N_res: T
    nu_oil: T
    p_et: T
    P_nd: T
    p_t: T
    P_VZ: T
    rho_red: T
    S_B: T
    S_FZG: T
    S_int: T
    S_lambda: T
    T_rel_B: T
    T_rel_GF: T
    T_rel_int: T
    sigma_H0: T
    sigma_load: T
    theta_B: T
    theta_fl: T
    theta_flaint: T
    theta_int: T
    theta_M: T
    theta_MGF: T
    theta_S: T
    theta_Sint: T
    travel: T
    u: T
    v: T
    v_wt: T
    vz: T
    w_Bt: T
    w_t: T
    W_W: T
    X_E: T
    X_mp: T
    x_sum: T
    X_W: T
    Y_theta: T
    Y_Z: T
    Z_beta: T
    Z_E: T
    Z_eps: T
    Z_H: T
    Z_I: T
    Z_RA: T


class GearValues(Values[T]):
    """What one gear of a mesh has of its own: its teeth, their strength, its blank."""

    a_0: T
    A_FF: T
    alpha_Fen: T
    alpha_w0: T
    at_tip: T
    b: T
    b_F: T
    b_s: T
    c: T
    c_F: T
    CHD: T
    CHD_c: T
    cost: T
    d: T
    d_a: T
    d_b: T
    d_bore: T
    d_f: T
    D_F: T
    d_Fa: T
    d_fE: T
    d_Ff: T
    D_H: T
    d_i: T
    d_Na: T
    d_Nf: T
    d_rim: T
    d_w: T
    delta_W: T
    density: T
    E_sni: T
    E_sns: T
    f_eps: T
    F_rT: T
    h: T
    h_a: T
    h_aP: T
    h_back: T
    h_f: T
    h_Fe: T
    h_fP: T
    hardness: T
    HV_core: T
    j_phi_max: T
    j_phi_min: T
    K_B: T
    K_f: T
    k_W: T
    l_Fl: T
    L_z: T
    mass: T
    N_L: T
    p_FA: T
    p_HA: T
    p_z: T
    Q: T
    q_s: T
    R_bend: T
    rho_F: T
    rho_fP: T
    rho_g: T
    Rz_F: T
    Rz_H: T
    s_an: T
    s_anE: T
    S_F: T
    S_FA: T
    S_Feq: T
    S_FF: T
    s_Fn: T
    S_Fst: T
    S_H: T
    S_HA: T
    S_Heq: T
    S_Hst: T
    s_n: T
    s_nE: T
    s_R: T
    sigma_F: T
    sigma_F0: T
    sigma_FA: T
    sigma_FG: T
    sigma_FGref: T
    sigma_FGst: T
    sigma_Flim: T
    sigma_Flim_st: T
    sigma_Fload: T
    sigma_FP0: T
    sigma_FPA: T
    sigma_Fpk: T
    sigma_H: T
    sigma_HA: T
    sigma_HG: T
    sigma_HGref: T
    sigma_HGst: T
    sigma_Hlim: T
    sigma_Hlim_st: T
    sigma_HP0: T
    sigma_HPA: T
    sigma_Hpk: T
    sigma_L: T
    t_g: T
    T_rel_F: T
    T_rel_FF: T
    T_rel_H: T
    theta_Fla: T
    theta_Fuss: T
    undercut: T
    x: T
    x_E: T
    x_min: T
    Y_AGMA: T
    Y_B: T
    Y_beta: T
    Y_both: T
    Y_delta_relT: T
    Y_delta_st: T
    Y_DT: T
    Y_eps: T
    Y_F: T
    Y_g: T
    Y_J: T
    Y_L: T
    Y_M: T
    Y_Mst: T
    Y_N: T
    Y_NT: T
    Y_NTst: T
    Y_R_relT: T
    Y_S: T
    Y_ST: T
    y_FF: T
    Y_X: T
    z: T
    z_0: T
    Z_BD: T
    Z_L: T
    z_n: T
    Z_N: T
    Z_NT: T
    Z_NTst: T
    Z_R: T
    Z_V: T
    Z_W: T
    Z_WA: T
    Z_Wst: T
    Z_X: T
    zeta_a: T
    zeta_f: T


class PowerValues(Values[float]):
    """Power, torque and speed at a stage: of what comes in and goes out, and of the mesh."""

    T_in: float
    n_in: float
    P_in: float
    T_out: float
    n_out: float
    P_out: float
    T_mesh: float
    n_mesh: float
    F_out: float
    v_out: float


class TrainValues(Values[float]):
    """Values of the whole train; ``_in`` and ``_out`` mark input and output."""

    P_in: float
    T_in: float
    n_in: float
    phi_lost: float
    phi_lost_min: float
    phi_lost_max: float
    phi_lost_rss: float
    u: float
    eta: float
    P_out: float
    T_out: float
    n_out: float
    du: float
    P_V: float
    P_Vz: float
    P_V0: float
    P_VL: float
    P_VD: float
    eta_all: float
    eta_back: float
    theta_oil: float
    theta_bal: float
    F_out: float
    v_out: float
    travel: float


class SetValues(Values[float]):
    """Values of a set of the train."""

    u: float
    eta_set: float
    eta_back: float
    circulation: float
    c_pl: float
    envelope: float
