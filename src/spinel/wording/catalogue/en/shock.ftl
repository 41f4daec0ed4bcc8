## core/shock/approach.py

approach-ac-or-dc = ac or dc
approach-the-table-ends-at-v = the table ends at { N($upper_v) } V
approach-glove-classes-end-at-v-work-with = glove classes end at { GROUPED($last) } V { UPPER($current) }: work with other means

## core/shock/cases.py

shock-cases-empty-or = empty or { $id }
shock-cases-glove-class = glove_class: { $error }
threshold-below = below { VOLTS($threshold_v) }
threshold-at-most = at most { VOLTS($threshold_v) }
