"""Made-up engines, hands and faults, played through the judgment of whole jobs: how often it is right."""
