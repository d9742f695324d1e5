"""The usual cautions as rules over plan and answers. Labels and local rules decide; never a certificate."""
