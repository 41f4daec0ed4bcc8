"""A Spinel circuit built in a general-purpose power-system library (pandapower), from the JSON document's elements.

Its IEC 60909 voltage factor c and transformer factor K_T are taken out so that the assumptions agree: grid strength is
given c times and results are divided by c; transformer impedances are divided by K_T. Motors and converters are the
same voltage behind a reactance in both. Impedances are the document's own: no tolerance, no change of temperature.
"""

import math
from functools import partial
from importlib import import_module

from werkzeug.local import LocalProxy

#: Loaded by the worker that asks it something: it takes seconds, and every worker reads this file.
pp = LocalProxy(partial(import_module, "pandapower"))
sc = LocalProxy(partial(import_module, "pandapower.shortcircuit"))

C = 1.1
SERIES, CONVERTS = ("cable", "busway", "reactor"), ("inverter", "rectifier", "ups")


def k_t(vk_percent, x_r):
    """IEC 60909-0 transformer correction factor for the impedance that the library will be given."""
    return 0.95 * C / (1 + 0.6 * vk_percent / 100 * x_r / math.hypot(1, x_r))


def uncorrected(vk_percent, x_r):
    """The impedance to give so that K_T makes the wanted one of it."""
    given = vk_percent
    for _ in range(50):
        given = vk_percent / k_t(given, x_r)
    return given


def build(network, circuit):
    """The library's net and its bus of each AC node. Closed devices are its ideal bus-to-bus switches."""
    net = pp.create_empty_network(f_hz=network.site.frequency_hz)
    ac = [n for n in network.nodes if n.current == "ac"]
    bus = dict(
        zip((n.id for n in ac), pp.create_buses(net, len(ac), [n.nominal_voltage_v / 1000 for n in ac]), strict=True)
    )
    for e in network.elements:
        if e.kind == "transformer":
            _transformer(net, network, e, bus)
        _feed(net, network, circuit, e, bus)
    # all of a kind in one call each: the library takes milliseconds for every single one
    cables = [e for e in network.elements if e.kind in SERIES]
    if cables:
        pp.create_lines_from_parameters(
            net, [bus[e.ends[0]] for e in cables], [bus[e.ends[1]] for e in cables], [1] * len(cables),
            [e.resistance_ohm or 0 for e in cables], [e.reactance_ohm or 0 for e in cables], [0] * len(cables),
            [10] * len(cables), endtemp_degree=[20] * len(cables),
        )  # fmt: skip
    joints = [(bus[a], bus[b]) for e in network.elements if e.kind not in ("transformer", *SERIES, *CONVERTS)
              for a, b in circuit.closed[e.id] if a in bus and b in bus]  # fmt: skip
    if joints:
        pp.create_switches(net, [a for a, _ in joints], [b for _, b in joints], et="b", closed=True)
    return net, bus


def _transformer(net, network, e, bus):
    vk = uncorrected(e.impedance_pct, e.x_r)
    high, low = sorted(e.ends, key=lambda n: -network.node[n].nominal_voltage_v)
    tap = {"tap_side": "hv", "tap_neutral": 0, "tap_pos": 1, "tap_step_percent": e.tap_pct, "tap_changer_type": "Ratio",
           "tap_min": -1, "tap_max": 1} if e.tap_pct else {}  # fmt: skip
    pp.create_transformer_from_parameters(
        net, bus[high], bus[low], e.rated_kva / 1000, network.node[high].nominal_voltage_v / 1000,
        network.node[low].nominal_voltage_v / 1000, vkr_percent=vk / math.hypot(1, e.x_r), vk_percent=vk,
        pfe_kw=0, i0_percent=0, shift_degree=0, **tap,
    )  # fmt: skip


def _feed(net, network, circuit, e, bus):
    node = e.ends[0]
    volts = network.node[node].nominal_voltage_v / 1000
    if e.kind == "source":
        weak = e.id in circuit.weak
        mva, x_r = (e.fault_mva_min, e.x_r_min) if weak else (e.fault_mva_max, e.x_r_max)
        pp.create_ext_grid(net, bus[node], s_sc_max_mva=mva * C, rx_max=1 / x_r)
    elif e.id in circuit.running and e.kind == "generator":
        x = e.xd_transient_pu if e.id in circuit.transient and e.xd_transient_pu else e.xd_subtransient_pu
        z = math.hypot(x, x / e.x_r)
        pp.create_ext_grid(net, bus[node], s_sc_max_mva=e.rated_kva / 1000 / z * C, rx_max=1 / e.x_r)
    elif e.id in circuit.running and e.kind in ("motor", "inverter", "shore_connection"):
        x = e.xd_subtransient_pu if e.kind == "motor" else 1 / e.fault_multiple
        r_x = 1 / e.x_r if e.kind == "motor" else 1e-9
        pp.create_motor(net, bus[node], pn_mech_mw=e.rated_kva * e.motors / 1000, cos_phi=1, cos_phi_n=1, efficiency_n_percent=100,
                        vn_kv=volts, lrc_pu=1 / math.hypot(x, x * r_x), rx=r_x, efficiency_percent=100)  # fmt: skip


def solve(net, fault="3ph", **more):
    """The library's short-circuit calculation: initial symmetrical currents, maximum case."""
    sc.calc_sc(net, fault=fault, case="max", lv_tol_percent=10, ip=False, ith=False, **more)


def add_zero_sequence(net, network):
    """Zero-sequence data of utilities, two-winding transformers and cables, from the document's own."""
    sources = [e for e in network.elements if e.kind == "source"]
    net.ext_grid["x0x_max"] = [e.z0_z1 for e in sources]
    net.ext_grid["r0x0_max"] = [1 / e.x_r_max for e in sources]
    series = [e for e in network.elements if e.kind in SERIES]
    net.line["r0_ohm_per_km"] = [e.r0_ohm for e in series]
    net.line["x0_ohm_per_km"] = [e.x0_ohm for e in series]
    net.line["c0_nf_per_km"] = 0.0
    transformers = [e for e in network.elements if e.kind == "transformer"]
    # the correction factor of the positive sequence is applied to the zero sequence too
    k = [k_t(uncorrected(e.impedance_pct, e.x_r), e.x_r) for e in transformers]
    z0 = [(e.z0_pct or e.impedance_pct) / f for e, f in zip(transformers, k, strict=True)]
    net.trafo["vector_group"] = [e.vector_group.rstrip("0123456789") for e in transformers]
    net.trafo["vk0_percent"] = z0
    net.trafo["vkr0_percent"] = [z / math.hypot(1, e.x_r) for z, e in zip(z0, transformers, strict=True)]
    net.trafo["mag0_percent"], net.trafo["mag0_rx"], net.trafo["si0_hv_partial"] = 1e9, 0.0, 0.5


def currents_ka(network, circuit, fault="3ph"):
    """Bolted fault currents in kA by node id."""
    net, bus = build(network, circuit)
    if fault == "1ph":
        add_zero_sequence(net, network)
    solve(net, fault)
    return {n: net.res_bus_sc.ikss_ka.at[i] / C for n, i in bus.items()}
