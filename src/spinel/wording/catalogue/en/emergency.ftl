# What is done in an emergency, by place.
emergency = In an emergency
emergency-plans = Emergency plans
emergency-question = Somebody is hurt, here: what then?
verdict-emergency = { $without ->
    [0] [b]Every place has its plan[/]: { $count }.
    [one] [late]One place has no plan[/] of { $count }.
   *[other] [late]{ $without } places have no plan[/] of { $count }.
    }
emergency-call = Call
emergency-switch = Nearest emergency switch
emergency-extinguisher = Extinguisher
emergency-defibrillator = Defibrillator
emergency-rescue = Way of rescue
emergency-note = Besides
emergency-none = No emergency plan is written for this place.
emergency-trained = Taught to free a victim and to revive, in date:
emergency-nobody-trained = Nobody here is taught both to free a victim and to revive, in date.
emergency-low = Switch off first, always. Only where that cannot be done, free a victim with what does not conduct, dry. Never touch with the hand.
emergency-high = Above 1000 V: nobody goes near before it is known to be isolated. Never free a victim with anything in the hand.
emergency-write = Write the plan
emergency-written = The plan is written.
emergency-coordinator-writes = A coordinator writes emergency plans.
emergency-a-place-of-the-network = a place of the network
emergency-who-is-called = who is called, and how
act-emergency-write-a-plan = write an emergency plan
