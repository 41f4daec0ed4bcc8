# What a study finds that somebody has to see to
finding-duty = fails its duty
finding-ceiling = above the ceiling
finding-no-figure = no figure
finding-slow = not cleared in time
finding-assumed = assumed values
finding-above-ceiling = { ENERGY($energy_cal_cm2) } cal/cm², above { ENERGY($ceiling_cal_cm2) }: nobody works live there
finding-not-cleared = no device that carries the arc clears it within { N($seconds) } s, which the figure takes
finding-rests-on = { LIST($fields, between: ", ") }
finding-do-duty = Lower the fault level, or replace it by one that is rated for it; nobody operates it in front of it meanwhile.
finding-do-ceiling = Nobody works live there. Faster settings, a limiting fuse, another supply, or remote control: the page of a job's risk computes them.
finding-do-no-figure = Complete what is missing, or have it studied by a method that covers it; until then nobody works live there.
finding-do-slow = See why: a device that is set too high, too slow, or not trusted. Set it, or trip it otherwise.
finding-do-assumed = Read it off the plate or the letter and confirm it.
