# How this site goes about equipment
checklist = Checklist
checklist-of = Checklist of { $tag }
checklist-devices = What isolates it
checklist-tested = Where it is tested
checklist-no-picture = No picture yet.
checklist-add-picture = Add one
checklist-nothing = Nothing is written yet.
checklist-write = Write it
checklist-lines = One line for each thing to do or to look at
checklist-own = At { $tag }
checklist-class = At every { $kind }
checklist-who = A coordinator or a person in charge writes it.
checklist-pictures = What it looks like
act-procedures-write = write a procedure
procedure-written = Written.
procedure-a-class-that-is-opened-there = a class of equipment that is opened there
procedure-at-most-lines = at most { $most } lines
verdict-checklist = { $first ->
    [yes] [late]Nobody has done it by this checklist yet:[/] go step by step, and correct it.
   *[no] It was done by this checklist before.
  } { $without ->
    [0] {""}
    [one] 1 place has no picture.
   *[other] { $without } places have no picture.
  }
checklist-first-time = First time by its checklist: nobody has shown yet that it is right.
act-procedure-written = procedure written
