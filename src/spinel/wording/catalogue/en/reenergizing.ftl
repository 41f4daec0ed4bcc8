# Putting the voltage back
again = { -reenergize(form: "One") }
again-boundary = { -arc_flash_boundary }
again-at = at { N($distance_mm) } mm
again-metres = { METRES($mm) } m
again-beyond = Beyond what may be worked at: by remote control, nobody in front of it.
again-may = Who may operate it
again-first = The first operation after work: an arc is more likely, and nothing excuses whoever closes it from clothing for these figures. Doors closed, covers on, stand aside.
again-clear = Nobody within { METRES($mm) } m of what comes alive.
risk-subject-work = The work
risk-subject-reenergizing = { -reenergize(form: "One") }
risk-of-what-is-closed-again = { -reenergize } is assessed where something is closed again
reenergizing-nothing = Nothing is closed again after it.
risk-ask-about-the-work = Ask about the work.
again-assess = Assess it
again-if-dead = Should it be made dead after all.
