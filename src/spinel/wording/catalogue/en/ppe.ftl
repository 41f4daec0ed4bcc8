## core/ppe/by_energy.py
