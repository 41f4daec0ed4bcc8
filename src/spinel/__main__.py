from spinel.cli import main

main()
