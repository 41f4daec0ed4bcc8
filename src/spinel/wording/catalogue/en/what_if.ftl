## web/what_if.py, core/what_if/rows.py

what-if-question = What would each of these change?
what-if-how = [b]Many cases at once[/], from a table that you fill in where you like. Nothing of the plant is changed by asking.
what-if-computing = { $count ->
    [one] [b]One case[/] is being followed through the whole site.
   *[other] [b]{ $count } cases[/] are being followed through the whole site.
 }
what-if-faults = [b]{ $count ->
    [one] One cell of the table cannot be so.[/]
   *[other] { $count } cells of the table cannot be so.[/]
 } Nothing was asked.
what-if-answered = [b]{ $count ->
    [one] One case.[/]
   *[other] { $count } cases.[/]
 } { $worse ->
    [0] None raises a figure anywhere
    [one] [late]One raises a figure somewhere[/]
   *[other] [late]{ $worse } raise a figure somewhere[/]
 }, { $lost ->
    [0] and the order of opening stays in all.
    [one] [late]and one puts devices out of order[/].
   *[other] [late]and { $lost } put devices out of order[/].
 }
what-if-steps = Fetch the table. Its second sheet lists everything that may be changed, with what it is now: copy rows from there to the first, name a case in front, and write the new value. Rows of one name are one case; up to { $most } cases.
what-if-get-table = The table to fill in, XLSX
what-if-file = The table, XLSX or a folder of CSV in a ZIP
what-if-ask = Ask them all
what-if-coming = The answers come by themselves, a second or so for each case.
what-if-look-again = Look again
what-if-table = All cases beside one another
what-if-head-case = Case
what-if-head-above = Above { N($level) } cal/cm²
what-if-head-worst = Highest, cal/cm²
what-if-head-without = No figure
what-if-head-rises = Places that rise
what-if-head-falls = Places that fall
what-if-head-order = Pairs out of order
what-if-as-published = As published
what-if-of = Incident energy by IEEE 1584-2018, of revision { $number } as published: the worst over all its cases, strengths of supply, and full and reduced arcing current, each place at its own working distance. The field as it stands may be worse.
what-if-as-workbook = With the answers, as XLSX
what-if-where = Where
what-if-trial-as-table = As a table, XLSX
what-if-no-change = A what-if case changes nothing: it is so once a draft of it is built, checked on site and published.
what-if-case-name = a name of the case, up to 80 characters
what-if-so-many-cases = from 1 to { $most } cases in a table
what-if-no-cases = at least one row with the name of a case
what-if-in-unit = in { $unit }, as the table says
what-if-number-in = a number above zero, in { $unit }, without its unit
what-if-of-one = a tag of the network, the name of an enclosure or of a case, as published
what-if-of-two = a name that only one piece has
what-if-once-in-a-case = each field once in a case
what-if-not-together = changes that can be so together
what-if-a-sheet = a table with the sheet “{ $sheet }”, as it is fetched here
